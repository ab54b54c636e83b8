import { useEffect, useMemo, useState } from 'react';
import { useInViewport } from '@mantine/hooks';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { useAppDispatch } from '../../app/store';
import { localise } from '../../parts/localise';
import classes from './TemplatesPlace.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('templates');

/** Stays true once something has been in sight. */
function useSeen<T extends HTMLElement>() {
  const { ref, inViewport } = useInViewport<T>();
  const [wasSeen, setSeen] = useState(typeof IntersectionObserver === 'undefined');
  if (inViewport && !wasSeen) setSeen(true);
  return { ref, isSeen: wasSeen };
}

/**
 * The mail as a person would see it, else its first recipient, made small. It is asked for when it comes into sight, and no
 * longer when the page is left: whoever opens a template meanwhile does not wait for pictures of others.
 */
export function Thumbnail({
  id,
  version,
  person,
}: {
  id: string;
  version: number;
  person?: number | undefined;
}) {
  const asked = useMemo(
    () => ({ id, version, ...(person !== undefined && { person }) }),
    [id, version, person],
  );
  const dispatch = useAppDispatch();
  const { ref, isSeen } = useSeen<HTMLDivElement>();
  const { data: mail, error } = api.usePreviewQuery(asked, { skip: !isSeen });
  useEffect(
    () => () => dispatch(api.util.getRunningQueryThunk('preview', asked))?.abort(),
    [dispatch, asked],
  );
  const html = mail ? localise(mail.html) : null;
  const why = error ? messageOf(error) : mail === null ? t('itsShopHasNoPeopleTo') : '';
  return (
    <div ref={ref} className={classes.thumbnail}>
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
