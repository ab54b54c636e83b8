import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { localise } from '../../parts/localise';
import classes from './TemplatesPlace.module.css';

/** The mail as its first recipient would see it, made small. */
export function Thumbnail({ id, version }: { id: string; version: number }) {
  const { data: mail, error } = api.usePreviewQuery({ id, version });
  const html = mail ? localise(mail.html) : null;
  const why = error ? messageOf(error) : mail === null ? 'Its shop has nobody to show it for.' : '';
  return (
    <div className={classes.thumbnail}>
      {html === null ? (
        <span className="quiet">{why}</span>
      ) : (
        <iframe
          title=""
          aria-hidden
          tabIndex={-1}
          sandbox="allow-same-origin"
          srcDoc={html}
          loading="lazy"
          scrolling="no"
        />
      )}
    </div>
  );
}
