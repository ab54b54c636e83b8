import { Table } from '@mantine/core';
import { useMemo } from 'react';
import type { ImportLook } from '@carafe/contract';
import { rowReader, hasRowLines, type Mapping, type Target } from '@carafe/core/intake';
import { inWords } from './inWords';
import { StoredCell } from './StoredCell';
import table from '../../parts/table.module.css';
import classes from './File.module.css';
import { movedNow, useMoved } from '../../app/useNow';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const SHOWN = 10;

/** Ten rows as they will be stored, by the same code that stores them, with the reason beside what cannot be. */
export function SampleTable({
  target,
  look,
  mapping,
}: {
  target: Target;
  look: ImportLook;
  mapping: Mapping;
}) {
  const moved = useMoved();
  const rows = useMemo(() => {
    const whole = !hasRowLines(mapping);
    const read = rowReader(mapping, look.columns, target, {
      whole,
      now: movedNow(moved).toISOString(),
    });
    // The ones that cannot be read are what there is to see.
    const all = look.rows.map((cells, i) => ({ line: i + 1, cells, row: read(cells) }));
    const bad = all.filter(({ row }) => !row.ok).slice(0, SHOWN / 2);
    const good = all.filter(({ row }) => row.ok).slice(0, SHOWN - bad.length);
    return [...bad, ...good].sort((a, b) => a.line - b.line);
  }, [target, look, mapping, moved]);
  const fields = useMemo(() => {
    const names = new Set(
      [...mapping.columns, ...(mapping.fixed ?? [])].flatMap(({ to, ...rest }) => {
        if (to === null) return [];
        return 'list' in rest && rest.list ? [rest.list.name] : [to];
      }),
    );
    for (const { row } of rows)
      if (row.ok) for (const name of Object.keys(row.record)) names.add(name);
    const order = new Map(target.fields.map((f, i) => [f.name, i]));
    return [...names].sort((a, b) => (order.get(a) ?? 99) - (order.get(b) ?? 99));
  }, [rows, target, mapping]);
  return (
    <section className={classes.sample}>
      <h2>{t('tenRowsAsTheyWillBe')}</h2>
      <div className={classes.wide} tabIndex={0} role="region" aria-label={t('sampleRows')}>
        <Table className={table.table ?? ''}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>{t('row')}</Table.Th>
              {fields.map((name) => (
                <Table.Th key={name} className={classes.data}>
                  {name}
                </Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {rows.map(({ line, cells, row }) =>
              row.ok ? (
                <Table.Tr key={line}>
                  <Table.Td>{line}</Table.Td>
                  {fields.map((name) => (
                    <Table.Td
                      key={name}
                      className={typeof row.record[name] === 'number' ? table.number : undefined}
                    >
                      <StoredCell name={name} value={row.record[name]} />
                    </Table.Td>
                  ))}
                </Table.Tr>
              ) : (
                <Table.Tr key={line} className={classes.refused}>
                  <Table.Td>{line}</Table.Td>
                  <Table.Td colSpan={Math.max(1, fields.length)}>
                    <strong>{t('refused')}</strong>{' '}
                    {row.problems.map(({ column, message }) => `${column}: ${message}`).join(' ')}{' '}
                    <span className="quiet">{cells.map(inWords).join(' · ')}</span>
                  </Table.Td>
                </Table.Tr>
              ),
            )}
          </Table.Tbody>
        </Table>
      </div>
    </section>
  );
}
