import { Switch } from '@mantine/core';
import type { ImportLook } from '@carafe/contract';
import { rowsApart, rowsAsLines, type Mapping, type Target } from '@carafe/core/intake';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** Whether each row of the file is a line of what its key names, or stands for itself. */
export function RowLines({
  target,
  look,
  mapping,
  onChange,
}: {
  target: Target;
  look: ImportLook;
  mapping: Mapping;
  onChange: (mapping: Mapping) => void;
}) {
  const isGathered = mapping.columns.some((c) => c.list && c.list.member > 0);
  if (!target.line || isGathered) return null;
  const key = target.fields.find(({ name }) => name === target.key)?.label ?? target.key;
  return (
    <div className={classes.numbered}>
      <Switch
        checked={mapping.columns.some((c) => c.list?.member === 0)}
        onChange={({ currentTarget: { checked } }) =>
          onChange(checked ? rowsAsLines(look, mapping, target) : rowsApart(mapping))
        }
        label={t('eachRowIsOneLineOf', {
          which: target.one === 'order' ? t('anOrder') : `a ${target.one}`,
          key,
        })}
      />
    </div>
  );
}
