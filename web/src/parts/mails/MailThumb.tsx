import { localise } from '../localise';
import classes from './mails.module.css';

/** A mail made small. */
export function MailThumb({
  mail,
  problem,
  onShown,
}: {
  mail: { html: string } | null;
  problem?: string | null;
  /** Told when the mail stands there. */
  onShown?: (frame: HTMLIFrameElement) => void;
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
          {...(onShown && { onLoad: (event) => onShown(event.currentTarget) })}
        />
      ) : (
        <span className="quiet">{problem ?? '…'}</span>
      )}
    </div>
  );
}
