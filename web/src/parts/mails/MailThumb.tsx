import { localise } from '../localise';
import classes from './mails.module.css';

/** A mail made small. */
export function MailThumb({
  mail,
  problem,
}: {
  mail: { html: string } | null;
  problem?: string | null;
}) {
  return (
    <div className={classes.thumb}>
      {mail ? (
        <iframe
          title=""
          aria-hidden
          tabIndex={-1}
          sandbox="allow-same-origin"
          srcDoc={localise(mail.html)}
          loading="lazy"
          scrolling="no"
        />
      ) : (
        <span className="quiet">{problem ?? '…'}</span>
      )}
    </div>
  );
}
