import { Switch } from '@mantine/core';
import {
  fieldName,
  findNumbered,
  suggestMapping,
  type MappedColumn,
  type Target,
} from '@carafe/core/intake';
import { counted } from '@carafe/core/words';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** Columns such as `product_1_name`: offered as the members of one list. */
export function NumberedColumns({
  target,
  columns,
  rows,
  mapped,
  onChange,
}: {
  target: Target;
  columns: string[];
  rows: unknown[][];
  mapped: MappedColumn[];
  onChange: (columns: MappedColumn[]) => void;
}) {
  const groups = findNumbered(columns);
  if (groups.length === 0) return null;
  const listName = (before: string) => (target.line ? 'lines' : fieldName(before));
  const set = (group: (typeof groups)[number], gathered: boolean) => {
    const suggested = suggestMapping({ columns, rows }, target).columns;
    const parts = new Map(group.columns.map((c) => [columns[c.index], c]));
    onChange(
      mapped.map((column) => {
        const part = parts.get(column.column);
        if (!part) return column;
        if (!gathered) {
          const { list: _apart, ...rest } = column;
          return { ...rest, to: fieldName(column.column), because: 'extra' };
        }
        const known = suggested.find((c) => c.column === column.column && c.list);
        return {
          ...column,
          to: known?.to ?? fieldName(part.rest),
          list: { name: listName(group.before), member: part.member },
        };
      }),
    );
  };
  return (
    <div className={classes.numbered}>
      {groups.map((group) => {
        const names = new Set(group.columns.map((c) => columns[c.index]));
        const isGathered = mapped.some((c) => names.has(c.column) && c.list);
        return (
          <Switch
            key={group.before}
            checked={isGathered}
            onChange={({ currentTarget: { checked } }) => set(group, checked)}
            label={t('gatherTheColumnsBefore1To', {
              before: group.before,
              members: group.members,
              before2: listName(group.before),
              members2: counted(group.members, 'member'),
            })}
          />
        );
      })}
    </div>
  );
}
