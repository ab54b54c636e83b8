import { useMemo } from 'react';
import { Select, Table } from '@mantine/core';
import type { ImportLook } from '@carafe/contract';
import { readingInWords, readValue, type Reading } from '@carafe/core/formats';
import { fieldName, readingFor, type MappedColumn, type Target } from '@carafe/core/intake';
import { counted } from '@carafe/core/words';
import { inWords } from './inWords';
import { FieldChoice } from './FieldChoice';
import table from '../../parts/table.module.css';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const READINGS: Reading[] = [
  { kind: 'text' },
  { kind: 'number', decimal: '.' },
  { kind: 'number', decimal: ',' },
  { kind: 'date', order: 'iso' },
  { kind: 'date', order: 'dmy' },
  { kind: 'date', order: 'mdy' },
  { kind: 'date', order: 'mail' },
  { kind: 'date', order: 'unix' },
  { kind: 'boolean' },
  { kind: 'list', separator: '|' },
  { kind: 'list', separator: ';' },
  { kind: 'list', separator: ',' },
  { kind: 'any' },
];
const BY_WORDS = READINGS.map((reading) => ({
  value: JSON.stringify(reading),
  label: readingInWords(reading),
}));

const WIDTHS = ['13%', '18%', '27%', '25%', '17%'];

const BECAUSE = {
  name: 'by its name',
  content: 'by what it holds',
  extra: null,
  hand: 'by hand',
} as const;

/** Each column of the file beside the field that it fills, and how its cells are read. */
export function ColumnLines({
  target,
  look,
  mapped,
  onChange,
}: {
  target: Target;
  look: ImportLook;
  mapped: MappedColumn[];
  onChange: (columns: MappedColumn[]) => void;
}) {
  const rowsAreLines = mapped.some((c) => c.list?.member === 0);
  const set = (column: string, change: Partial<MappedColumn>) =>
    onChange(mapped.map((c) => (c.column === column ? { ...c, ...change, because: 'hand' } : c)));
  return (
    <Table className={`${table.table} ${classes.columns}`} aria-label={t('columns')}>
      <colgroup>
        {WIDTHS.map((width, i) => (
          <col key={i} style={{ width }} />
        ))}
      </colgroup>
      <Table.Thead>
        <Table.Tr>
          <Table.Th>{t('columnOfTheFile')}</Table.Th>
          <Table.Th>{t('holds')}</Table.Th>
          <Table.Th>{t('fills')}</Table.Th>
          <Table.Th>{t('readAs')}</Table.Th>
          <Table.Th>{t('storedAs')}</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {mapped.map((one) => (
          <ColumnLine key={one.column} {...{ one, target, look, rowsAreLines }} onSet={set} />
        ))}
      </Table.Tbody>
    </Table>
  );
}

function ColumnLine({
  one,
  target,
  look,
  rowsAreLines,
  onSet,
}: {
  one: MappedColumn;
  rowsAreLines: boolean;
  target: Target;
  look: ImportLook;
  onSet: (column: string, change: Partial<MappedColumn>) => void;
}) {
  const { column, to, reading, list, because } = one;
  const at = look.columns.indexOf(column);
  const found = useMemo(() => {
    const cells = look.rows.map((row) => row[at]);
    const filled = cells.filter((c) => c !== undefined && c !== null && c !== '');
    const read = filled.map((cell) => readValue(cell, reading));
    const wrong = read.flatMap((r) => (r.ok ? [] : [r.message]));
    return {
      raw: filled.slice(0, 3).map(inWords),
      stored: read.flatMap((r) => (r.ok ? [inWords(r.value)] : [])).slice(0, 2),
      wrong,
    };
  }, [look, at, reading]);
  // Numbered columns stay parts of their member; where rows are lines, a column may be of either.
  const isMember = list !== undefined && list.member > 0;
  const fields = isMember ? (target.line ?? []) : target.fields;
  const choose = (name: string | null, isLine: boolean) => {
    const field = (isLine ? (target.line ?? []) : fields).find((f) => f.name === name);
    onSet(column, {
      to: name,
      ...(!isMember && { list: isLine ? { name: 'lines', member: 0 } : undefined }),
      ...(field &&
        field.kind !== reading.kind && {
          reading: readingFor({ columns: look.columns, rows: look.rows }, at, field),
        }),
    });
  };
  return (
    <Table.Tr data-out={to === null || undefined}>
      <Table.Td className={classes.column}>{column}</Table.Td>
      <Table.Td className={classes.samples}>{found.raw.join(' · ') || t('nothing')}</Table.Td>
      <Table.Td>
        <div className={classes.fills}>
          <FieldChoice
            column={column}
            value={to}
            own={fieldName(column)}
            fields={fields}
            line={rowsAreLines && !isMember ? target.line : undefined}
            isLine={list?.member === 0}
            one={isMember ? 'line' : target.one}
            onChange={choose}
          />
          {because && BECAUSE[because] && to !== null && (
            <span className={classes.because}>{BECAUSE[because]}</span>
          )}
        </div>
      </Table.Td>
      <Table.Td>
        {to !== null && (
          <Select
            aria-label={t('howColumnIsRead', { column })}
            value={JSON.stringify(reading)}
            data={BY_WORDS}
            allowDeselect={false}
            comboboxProps={{ width: 340, position: 'bottom-start' }}
            onChange={(value) => value && onSet(column, { reading: JSON.parse(value) as Reading })}
          />
        )}
      </Table.Td>
      <Table.Td className={classes.stored}>
        {to !== null && found.stored.join(' · ')}
        {to !== null && found.wrong[0] !== undefined && (
          <div className={classes.bad}>
            {counted(found.wrong.length, 'cell')} {t('cannotBeRead')} {found.wrong[0]}
          </div>
        )}
      </Table.Td>
    </Table.Tr>
  );
}
