import { readFileSync, statSync } from 'node:fs';
import type { ImportCounts } from '@carafe/contract';
import { decode, FormatError, readNdjsonLine } from '@carafe/core/formats';
import { readDocument } from '@carafe/core/intake';
import { readEvent } from '@carafe/core/record';
import type { Db } from '../db/open';
import { linesOf } from './rows';
import { openStaging } from './staging';
import { noCounts, type CheckTask, type Progress } from './task';

type Given = { line: number; value: unknown; wrong?: string };

const MAX_LIST = 200_000_000;

async function* eventsIn({ file, settings }: CheckTask): AsyncGenerator<Given[]> {
  if (settings.format === 'ndjson') {
    for await (const lines of linesOf(file, settings.encoding))
      yield lines.flatMap(({ line, text }): Given[] => {
        const read = readNdjsonLine(text, line);
        if (read === null) return [];
        return [read.ok ? { line, value: read.value } : { line, value: text, wrong: read.message }];
      });
    return;
  }
  if (settings.format !== 'json')
    throw new FormatError('Events come as NDJSON, one a line, or as a JSON list of events.');
  if (statSync(file).size > MAX_LIST)
    throw new FormatError('A list this long comes better as NDJSON, one event a line.');
  const text = decode(readFileSync(file), settings.encoding);
  const { records } = readDocument(text, 'json', 'events', settings.pointer);
  yield records.map((value, i) => ({ line: i + 1, value }));
}

/** Reads a file of events into staging. An id that is known already changes nothing. */
export async function checkEvents(
  db: Db,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const counts = noCounts();
    const find = db.prepare<[string, string], object>(
      'SELECT 1 FROM events WHERE shop = ? AND id = ?',
    );
    const any = db.prepare<[], object>('SELECT 1 FROM events LIMIT 1').get() !== undefined;
    const ids = new Set<string>();
    staging.setColumns(['event']);
    staging.begin();
    for await (const batch of eventsIn(task)) {
      for (const { line, value, wrong } of batch) {
        counts.read++;
        const read =
          wrong === undefined ? readEvent(value) : ({ ok: false, message: wrong } as const);
        const foreign =
          read.ok && task.shop !== null && read.event.shop !== task.shop
            ? `It is of shop “${read.event.shop}”; this source is for “${task.shop}”.`
            : null;
        if (!read.ok || foreign !== null) {
          counts.rejected++;
          const message = read.ok ? (foreign ?? '') : read.message;
          staging.reject(
            line,
            null,
            [JSON.stringify(value)?.slice(0, 500)],
            [{ column: 'event', message }],
          );
          continue;
        }
        const { event } = read;
        const key = `${event.shop} ${event.id}`;
        if (ids.has(key) || (any && find.get(event.shop, event.id) !== undefined)) {
          counts.unchanged++;
          continue;
        }
        ids.add(key);
        counts.new++;
        staging.stageEvent(line, event);
      }
      await progress(counts.read);
    }
    staging.finish();
    return counts;
  } finally {
    staging.close();
  }
}
