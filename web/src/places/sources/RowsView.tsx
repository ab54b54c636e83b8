import { useEffect, useMemo, useRef, useState } from 'react';
import { TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { IconArrowDown, IconArrowUp, IconSearch } from '@tabler/icons-react';
import {
  createColumnHelper,
  getCoreRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { SourceSummary } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import { counted } from '@carafe/core/words';
import { PersonDrawer } from '../people/PersonDrawer';
import { RowDrawer } from './RowDrawer';
import { StoredCell } from './StoredCell';
import { useRows, type StoredRow } from './useRows';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const ROW_HEIGHT = 34;
const NO_ROWS: StoredRow[] = [];
const columnHelper = createColumnHelper<StoredRow>();
const EVENT_FIELDS = ['image', 'at', 'kind', 'email', 'name', 'sku', 'number', 'quantity', 'price'];

/** The fields of the rows: the picture and the key first, then as the target names them, its own last. */
function fieldsOf(rows: readonly StoredRow[], id: SourceSummary['target']): string[] {
  const names = new Set<string>();
  for (const { record } of rows) for (const name of Object.keys(record)) names.add(name);
  const { key, fields } = targetOf(id);
  const order =
    id === 'events' ? EVENT_FIELDS : ['image', key, ...fields.map((field) => field.name)];
  const rank = (name: string) => (order.includes(name) ? order.indexOf(name) : order.length);
  return [...names].sort((a, b) => rank(a) - rank(b));
}

/** The fields whose values are numbers, as far as the first rows say. */
function numericOf(rows: readonly StoredRow[]): Set<string> {
  const names = rows.flatMap(({ record }) =>
    Object.keys(record).filter((name) => typeof record[name] === 'number'),
  );
  return new Set(names);
}

const WIDTHS: Record<string, number> = {
  image: 60,
  sku: 100,
  name: 220,
  title: 260,
  email: 240,
  description: 320,
  content: 320,
  summary: 320,
  words: 380,
  url: 240,
  lines: 340,
};
const widthOf = (name: string) => WIDTHS[name] ?? 140;

/** The rows of a source: any number of them scroll freely; searched, filtered by formula, sorted. */
export function RowsView({ source, revision }: { source: SourceSummary; revision: string }) {
  const [q, setQ] = useState('');
  const [filter, setFilter] = useState('');
  const [sorting, setSorting] = useState<SortingState>([]);
  const [sort] = sorting;
  const [slowQ] = useDebouncedValue(q, 250);
  const [slowFilter] = useDebouncedValue(filter, 400);
  const asked = useMemo(
    () => ({
      q: slowQ,
      filter: slowFilter,
      sort: sort?.id ?? null,
      descending: sort?.desc ?? false,
    }),
    [slowQ, slowFilter, sort],
  );
  const { total, at, want, problem, first } = useRows(source.id, asked, revision);
  const known = useRef<string[]>([]);
  const fields = useMemo(() => {
    // A filter that leaves nothing does not take the columns away.
    if (first.length > 0) known.current = fieldsOf(first, source.target);
    return known.current;
  }, [first, source.target]);
  const numeric = useMemo(() => numericOf(first), [first]);
  const columns = useMemo(
    () =>
      fields.map((name) =>
        columnHelper.accessor(({ record }) => record[name], {
          id: name,
          size: widthOf(name),
          sortDescFirst: false,
        }),
      ),
    [fields],
  );
  // The server sorts and filters: the table knows its columns and how they are sorted.
  const table = useReactTable({
    data: NO_ROWS,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    manualSorting: true,
    getCoreRowModel: getCoreRowModel(),
  });
  const [opened, setOpened] = useState<StoredRow | null>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: total ?? 0,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const shown = rows.getVirtualItems();
  const from = shown[0]?.index ?? 0;
  const to = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (total) want(from, to);
  }, [from, to, total, want]);
  const isPerson = source.target === 'people' && source.shop !== null;
  return (
    <>
      <div className={classes.tools}>
        <TextInput
          aria-label={t('searchRows')}
          placeholder={t('search')}
          leftSection={<IconSearch size={14} />}
          value={q}
          onChange={({ currentTarget: { value } }) => setQ(value)}
        />
        <TextInput
          className={classes.filter ?? ''}
          aria-label={t('filterByFormula')}
          placeholder={targetOf(source.target).exampleFilter}
          value={filter}
          error={problem}
          spellCheck={false}
          onChange={({ currentTarget: { value } }) => setFilter(value)}
          styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
        />
        <span className={classes.count} aria-live="polite">
          {total === null
            ? t('counting')
            : counted(total, source.target === 'events' ? 'event' : 'row')}
        </span>
      </div>
      {total === 0 && !q && !filter ? (
        <p className="quiet">{EMPTY[source.kind]}</p>
      ) : (
        <div
          ref={scroll}
          className={classes.scroll}
          tabIndex={0}
          role="table"
          aria-label={t('rows')}
          aria-rowcount={total ?? -1}
        >
          <div className={classes.names} role="row">
            {table.getFlatHeaders().map(({ id, column }) => {
              const sorted = column.getIsSorted();
              return (
                <div
                  key={id}
                  className={numeric.has(id) ? classes.numeric : undefined}
                  role="columnheader"
                  aria-sort={
                    sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'
                  }
                  style={{ width: column.getSize() }}
                >
                  <button
                    type="button"
                    aria-label={t('sortById', { id })}
                    onClick={column.getToggleSortingHandler()}
                  >
                    {id}
                    {sorted === 'desc' && <IconArrowDown size={12} />}
                    {sorted === 'asc' && <IconArrowUp size={12} />}
                  </button>
                </div>
              );
            })}
          </div>
          <div className={classes.grid} role="rowgroup" style={{ height: rows.getTotalSize() }}>
            {shown.map(({ index, start }) => {
              const row = at(index);
              return (
                <div
                  key={index}
                  className={classes.row}
                  role="row"
                  data-testid="row"
                  style={{ transform: `translateY(${start}px)` }}
                >
                  {fields.map((name, i) => (
                    <Cell
                      key={name}
                      name={name}
                      row={row}
                      isNumeric={numeric.has(name)}
                      opens={i === (fields[0] === 'image' ? 1 : 0)}
                      onOpen={setOpened}
                    />
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      )}
      {opened && isPerson && (
        <PersonDrawer
          shop={source.shop ?? ''}
          email={String(opened.record['email'])}
          onClose={() => setOpened(null)}
        />
      )}
      {opened && !isPerson && (
        <RowDrawer source={source} row={opened} onClose={() => setOpened(null)} />
      )}
    </>
  );
}

const EMPTY: Record<SourceSummary['kind'], string> = {
  file: 'It is empty. Upload a file.',
  address: 'It is empty. Fetch the address.',
  events: 'No events yet. The shop posts them to /api/events.',
  typed: 'No rows yet. Add a row.',
};

function Cell({
  name,
  row,
  isNumeric,
  opens,
  onOpen,
}: {
  name: string;
  row: StoredRow | undefined;
  isNumeric: boolean;
  opens: boolean;
  onOpen: (row: StoredRow) => void;
}) {
  const value = row?.record[name];
  return (
    <div
      role="cell"
      className={isNumeric ? `${classes.cell} ${classes.numeric}` : classes.cell}
      style={{ width: widthOf(name) }}
    >
      {row === undefined ? (
        <span className={classes.blank}>…</span>
      ) : opens ? (
        <button type="button" className={classes.rowlink} onClick={() => onOpen(row)}>
          <StoredCell name={name} value={value} />
        </button>
      ) : (
        <StoredCell name={name} value={value} />
      )}
    </div>
  );
}
