import { useDeferredValue, useMemo } from 'react';
import { elseOwners } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { labelOf } from './labelOf';
import { useDesk } from './useDesk';
import classes from './Canvas.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** What the recipient gets where the selection, an else, is only looked at. */
export function Instead() {
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const selected = useAppSelector((s) => s.desk.selected);
  const { trail } = useDesk();
  const shown = useAppSelector(({ desk }) => desk.recipients[desk.index]);
  const name = shown?.name || shown?.email || t('thisRecipient');
  const instead = useMemo(
    () =>
      (template && selected ? elseOwners(template, selected) : []).find(({ id }) =>
        trail.some((entry) => entry.is === 'condition' && entry.node === id && entry.held),
      ),
    [template, selected, trail],
  );
  if (!instead) return null;
  return (
    <p className={classes.peek}>
      {t('previewingAnAlternativeWithTheData')} {name}
      {t('whoGets')}
      {labelOf(instead)}
      {t('instead')}
    </p>
  );
}
