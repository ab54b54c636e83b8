import type { ReactNode } from 'react';
import { IconCheck, IconX } from '@tabler/icons-react';
import type { TrailEntry } from '@carafe/core/render';
import classes from './TrailLine.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** One thing that happened while a mail was filled, and why; more about it beside it. */
export function TrailLine({ entry, children }: { entry: TrailEntry; children?: ReactNode }) {
  return (
    <div className={classes.entry}>
      <code className={classes.formula}>{entry.formula}</code>
      <div>
        <Said entry={entry} />
        {children}
      </div>
    </div>
  );
}

function Said({ entry }: { entry: TrailEntry }) {
  switch (entry.is) {
    case 'condition':
      return (
        <>
          <span className={classes.verdict}>
            {entry.held ? <IconCheck size={14} /> : <IconX size={14} />}
            {entry.said}: {entry.held ? t('itShows') : t('itIsHidden')}
          </span>
          <Parts parts={entry.why.parts} />
        </>
      );
    case 'loop':
      return (
        <>
          <span>
            {entry.before} {t('inTheList')}
            {entry.kept !== entry.before && t('keptAfterTheFilter', { kept: entry.kept })}
            {t('shownShown', { shown: entry.shown })}
          </span>
          <span className={classes.members}>
            {entry.members.map((member, i) => (
              <span key={`${member.name} ${i}`} data-shown={member.shown || undefined}>
                {member.name}
              </span>
            ))}
            {entry.before > entry.members.length && (
              <span>{t('andBeforeMore', { before: entry.before - entry.members.length })}</span>
            )}
          </span>
        </>
      );
    case 'value':
      return (
        <>
          <span>
            {entry.text.trim() === '' ? (
              <em className={classes.blank}>{t('blank')}</em>
            ) : (
              `“${entry.text}”`
            )}
            {entry.fallback && <span className={classes.fell}> {t('byFallback')}</span>}
          </span>
          <Parts parts={entry.why.parts} />
          {entry.text.trim() === '' && entry.why.reasons[0] && (
            <span className="quiet">{entry.why.reasons[0].message}</span>
          )}
        </>
      );
  }
}

function Parts({ parts }: { parts: { source: string; value: string }[] }) {
  if (parts.length === 0) return null;
  return (
    <span className={classes.parts}>
      {parts.map((part, i) => (
        <span key={`${part.source} ${i}`}>
          <code>{part.source}</code> {part.value}
        </span>
      ))}
    </span>
  );
}
