import type { ImportCounts } from '@carafe/contract';
import {
  finished,
  hasRowLines,
  joinLines,
  mappingProblems,
  rowReader,
  targetOf,
  type RowRead,
  type TargetId,
} from '@carafe/core/intake';
import { FormatError } from '@carafe/core/formats';
import type { Db } from '../db/open';
import { checkEvents } from './checkevents';
import { columnsOfFile, rowsOf } from './rows';
import { openStaging } from './staging';
import { noCounts, type CheckTask, type Progress } from './task';

const REJECTED_CELL = 500;
const owned = new Set<TargetId>(['people', 'carts', 'orders']);

const inShort = (cell: unknown) =>
  typeof cell === 'string' && cell.length > REJECTED_CELL
    ? `${cell.slice(0, REJECTED_CELL)}…`
    : cell;

/** Tells for people whether they are known without consent; asked for every row, so by the index. */
function saidNo(db: Db, shop: string | null): (email: string) => boolean {
  const where = shop === null ? 'shop IN (SELECT id FROM shops)' : 'shop = @shop';
  const find = db.prepare<object, { no: number }>(
    `SELECT 1 AS no FROM people WHERE ${where} AND email = @email
     AND NOT coalesce(json_extract(record, '$.consent'), 0) LIMIT 1`,
  );
  return (email) => find.get(shop === null ? { email } : { email, shop }) !== undefined;
}

/**
 * Reads a file into staging: every row as it would be stored, with what becomes of it, or why it
 * cannot be taken. The database itself is only read. Throws a FormatError where the file as a whole
 * cannot be read.
 */
export async function checkFile(
  db: Db,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  if (task.target === 'events') return checkEvents(db, task, progress);
  const target = targetOf(task.target);
  const { settings, source, mode } = task;
  const wrong = mappingProblems(settings.mapping, target);
  if (wrong[0] !== undefined) throw new FormatError(wrong.join(' '));
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const columns = columnsOfFile(task.file, settings, target);
    staging.setColumns(columns);
    const joins = hasRowLines(settings.mapping);
    const read = rowReader(settings.mapping, columns, target, { whole: !joins });
    const held = db
      .prepare<[string], { n: number }>('SELECT COUNT(*) AS n FROM entries WHERE source = ?')
      .get(source);
    const before = db.prepare<[string, string], { record: string }>(
      'SELECT record FROM entries WHERE source = ? AND key = ?',
    );
    const isFirst = (held?.n ?? 0) === 0;
    const refusesConsent = saidNo(db, task.shop);
    const isOwned = owned.has(task.target);
    const isPeople = task.target === 'people';
    const lines = new Map<string, number>();
    const joined = new Map<string, { line: number; record: Record<string, unknown> }>();
    // What is made of several rows is taken with all of them, or not at all.
    const broken = new Map<string, number>();
    const counts = noCounts();
    const reject = (line: number, cells: readonly unknown[], row: RowRead & { ok: false }) => {
      counts.rejected++;
      staging.reject(line, row.key, cells.map(inShort), row.problems);
    };
    const take = (line: number, key: string, record: Record<string, unknown>) => {
      if (isPeople) {
        if (settings.consented_only && record['consent'] !== true) {
          counts.left_out++;
          return;
        }
        if (record['consent'] === true && !task.raiseConsent && refusesConsent(key)) {
          counts.consent_kept++;
          record['consent'] = false;
          delete record['consent_at'];
          delete record['consent_how'];
        }
      }
      const owner = isOwned ? String(record['email'] as string).toLowerCase() : null;
      const text = JSON.stringify(record);
      const known = isFirst ? undefined : before.get(source, key);
      const outcome = known === undefined ? 'new' : known.record === text ? 'unchanged' : 'changed';
      counts[outcome]++;
      staging.stage(line, key, owner, text, outcome);
    };
    staging.begin();
    for await (const batch of rowsOf(task.file, settings, columns, target)) {
      for (const { line, cells, wrong: noRecord } of batch) {
        counts.read++;
        if (noRecord !== undefined) {
          const problems = [{ column: columns[0] ?? '', message: noRecord }];
          reject(line, cells, { ok: false, key: null, problems });
          continue;
        }
        const row = read(cells);
        if (!row.ok) {
          if (row.key !== null) broken.set(row.key, line);
          reject(line, cells, row);
          continue;
        }
        const { key, record } = row;
        const first = joins ? joined.get(key) : undefined;
        if (first) joinLines(first.record, record);
        else if (joins) joined.set(key, { line, record });
        else {
          const earlier = lines.get(key);
          if (earlier !== undefined) {
            const message = `“${key}” stands in line ${earlier} already; each ${target.one} can come once.`;
            const column = settings.mapping.columns.find((c) => c.to === target.key)?.column ?? '';
            reject(line, cells, { ok: false, key, problems: [{ column, message }] });
            continue;
          }
          lines.set(key, line);
          take(line, key, record);
        }
      }
      await progress(counts.read);
    }
    const columnOf = new Map(
      settings.mapping.columns.flatMap((c) => (c.to && !c.list ? [[c.to, c.column] as const] : [])),
    );
    for (const { line, record } of joined.values()) {
      const row = finished(record, target, columnOf);
      const wrongLine = row.key === null ? undefined : broken.get(row.key);
      if (wrongLine !== undefined) {
        const message = `Line ${wrongLine} of this ${target.one} cannot be read, so none of it is taken.`;
        reject(line, [], { ok: false, key: row.key, problems: [{ column: target.key, message }] });
      } else if (row.ok) take(line, row.key, row.record);
      else reject(line, [], row);
    }
    staging.finish();
    if (mode === 'whole' && !isFirst) {
      const kept = staging.refusedKeys().filter((key) => before.get(source, key) !== undefined);
      counts.gone = (held?.n ?? 0) - counts.changed - counts.unchanged - kept.length;
    }
    return counts;
  } finally {
    staging.close();
  }
}
