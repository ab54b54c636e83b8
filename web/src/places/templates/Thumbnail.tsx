import { useEffect, useState } from 'react';
import { api, messageOf } from '../../app/api';
import { localise } from '../../parts/localise';
import classes from './TemplatesPlace.module.css';

/** The mail as its first recipient would see it, made small. */
export function Thumbnail({ id, version }: { id: string; version: number }) {
  const [html, setHtml] = useState<string | null>(null);
  const [says, setSays] = useState('');
  useEffect(() => {
    let current = true;
    api
      .preview(id)
      .then((mail) => {
        if (!current) return;
        setHtml(mail ? localise(mail.html) : null);
        setSays(mail ? '' : 'Its shop has nobody to show it for.');
      })
      .catch((error: unknown) => current && setSays(messageOf(error)));
    return () => {
      current = false;
    };
  }, [id, version]);
  return (
    <div className={classes.thumbnail}>
      {html === null ? (
        <span className="quiet">{says}</span>
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
