import type { ImportCounts } from '@carafe/contract';
import {
  finished,
  hasRowLines,
  joinLines,
  mappingProblems,
  rowReader,
  targetOf,
  type RowRead,
} from '@carafe/core/intake';
import { FormatError } from '@carafe/core/formats';
import type { Progress } from '../jobs/jobs';
import type { PeopleRepository } from '../people/repository';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesRepository } from '../sources/repository';
import { checkEvents, type CheckEventParts } from './checkEvents';
import { headOfFile } from './fileRows';
import { openStaging } from './staging';
import { noCounts, type CheckTask } from './task';

const REJECTED_CELL = 500;
const inShort = (cell: unknown) =>
  typeof cell === 'string' && cell.length > REJECTED_CELL
    ? `${cell.slice(0, REJECTED_CELL)}…`
    : cell;

/** What checking a file reads. */
export interface CheckParts extends CheckEventParts {
  sources: Pick<SourcesRepository, 'find'>;
  entries: Pick<EntriesRepository, 'recordOf'>;
  people: Pick<PeopleRepository, 'saidNo'>;
}

/**
 * Reads a file into staging: every row as it would be stored, with what becomes of it, or why it
 * cannot be taken. The database itself is only read. Throws a FormatError where the file as a whole
 * cannot be read.
 */
export async function checkFile(
  parts: CheckParts,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  if (task.target === 'events') return checkEvents(parts, task, progress);
  const target = targetOf(task.target);
  const { settings, source, mode } = task;
  const wrong = mappingProblems(settings.mapping, target);
  if (wrong[0] !== undefined) throw new FormatError(wrong.join(' '));
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const { columns, meta } = await headOfFile(task.file, settings, target);
    staging.setColumns(columns, meta);
    const joins = hasRowLines(settings.mapping);
    const read = rowReader(settings.mapping, columns, target, { whole: !joins, now: task.now });
    const held = parts.sources.find(source)?.row_count ?? 0;
    const before = parts.entries.recordOf(source);
    const isFirst = held === 0;
    const refusesConsent = parts.people.saidNo(task.shop);
    const { isOwned } = target;
    const isPeople = task.target === 'people';
    const isOrders = task.target === 'orders';
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
      const known = isFirst ? undefined : before(key);
      const outcome = known === undefined ? 'new' : known === text ? 'unchanged' : 'changed';
      counts[outcome]++;
      staging.stage(line, key, owner, text, outcome);
    };
    staging.begin();
    for await (const batch of parts.reading.rows(task.file, settings, columns)) {
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
        const placed = isOrders && task.shop ? parts.events.placed(task.shop, key) : null;
        if (placed) {
          const message = `Order “${key}” was placed by the event “${placed.id}”, and only events can change it: send order_changed, order_status_changed or order_refunded.`;
          const column = settings.mapping.columns.find((c) => c.to === target.key)?.column ?? '';
          reject(line, cells, { ok: false, key, problems: [{ column, message }] });
          continue;
        }
        const first = joins ? joined.get(key) : undefined;
        if (first) joinLines(first.record, record);
        else if (joins) joined.set(key, { line, record });
        else {
          const earlier = lines.get(key);
          if (earlier !== undefined) {
            const message = `“${key}” is already on line ${earlier}. Each ${target.one} can appear only once.`;
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
        const message = `Line ${wrongLine} of this ${target.one} cannot be read, so the whole ${target.one} is rejected.`;
        reject(line, [], { ok: false, key: row.key, problems: [{ column: target.key, message }] });
      } else if (row.ok) take(line, row.key, row.record);
      else reject(line, [], row);
    }
    staging.finish();
    if (mode === 'whole' && !isFirst) {
      const kept = staging.refusedKeys().filter((key) => before(key) !== undefined);
      counts.gone = held - counts.changed - counts.unchanged - kept.length;
    }
    return counts;
  } finally {
    staging.close();
  }
}
