import { existsSync } from 'node:fs';
import type { ImportOutcome, ImportRow } from '@carafe/contract';
import { stringify } from 'csv-stringify';
import type { Response } from 'express';
import { Refusal } from '../http/errors';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { Import } from './repository';
import { openStaging, type Staging } from './staging';

const parsed = (text: string) => JSON.parse(text) as Record<string, unknown>;

function stagingOf({ file }: Import): Staging {
  if (!existsSync(`${file}.staging`))
    throw new Refusal(410, 'The rows of this file are no longer kept.');
  return openStaging(`${file}.staging`);
}

/** The rows of a checked file that meet one fate. */
export function importRows(
  entries: Pick<EntriesRepository, 'find' | 'pageRows'>,
  one: Import,
  outcome: ImportOutcome,
  limit: number,
  offset: number,
): ImportRow[] {
  const staging = stagingOf(one);
  try {
    if (outcome === 'rejected')
      return staging.rejected(limit, offset).map(({ line, key, cells, problems }) => ({
        line,
        key,
        record: null,
        before: null,
        cells: JSON.parse(cells) as unknown[],
        problems: JSON.parse(problems) as ImportRow['problems'],
      }));
    if (outcome === 'gone')
      return goneRows(entries, one.source, staging, limit, offset).map(({ key, record }) => ({
        line: null,
        key,
        record: null,
        before: parsed(record),
        cells: null,
        problems: [],
      }));
    return staging.page(outcome, limit, offset).map(({ line, key, record }) => ({
      line,
      key,
      record: parsed(record),
      before: outcome === 'changed' ? entries.find(one.source, key) : null,
      cells: null,
      problems: [],
    }));
  } finally {
    staging.close();
  }
}

function goneRows(
  entries: Pick<EntriesRepository, 'pageRows'>,
  source: string,
  staging: Staging,
  limit: number,
  offset: number,
) {
  const rows: { key: string; record: string }[] = [];
  let skipped = 0;
  for (const row of entries.pageRows(source)) {
    if (staging.has(row.key)) continue;
    if (skipped < offset) skipped++;
    else if (rows.push(row) === limit) break;
  }
  return rows;
}

/** A cell that a spreadsheet would take for a formula is told apart by an apostrophe. */
function safe(cell: unknown): string {
  const text =
    typeof cell === 'object' && cell !== null ? JSON.stringify(cell) : String(cell ?? '');
  return /^[=+\-@\t\r]/.test(text) && !/^[+-]?[\d.,]+$/.test(text) ? `'${text}` : text;
}

const PAGE = 500;

/** The rejected rows as CSV, as they came, with the reason in a column of its own. */
export async function rejectedCsv(one: Import, response: Response): Promise<void> {
  const staging = stagingOf(one);
  try {
    response.type('text/csv').attachment(`rejected-${one.name.replace(/\.[^.]*$/, '')}.csv`);
    const csv = stringify({ bom: true, record_delimiter: '\r\n' });
    csv.pipe(response);
    csv.write(['Line', ...staging.columns().map(safe), 'Why it was not imported']);
    for (let offset = 0; ; offset += PAGE) {
      const rows = staging.rejected(PAGE, offset);
      for (const { line, cells, problems } of rows) {
        const given = JSON.parse(cells) as unknown[];
        const why = (JSON.parse(problems) as ImportRow['problems'])
          .map(({ column, message }) => `${column}: ${message}`)
          .join(' ');
        const width = staging.columns().length;
        csv.write([line, ...Array.from({ length: width }, (_, i) => safe(given[i])), safe(why)]);
      }
      if (rows.length < PAGE) break;
    }
    csv.end();
    await new Promise((done) => response.on('close', done));
  } finally {
    staging.close();
  }
}
