import type { ImportCounts } from '@carafe/contract';
import { FormatError, readNdjsonLine } from '@carafe/core/formats';
import { readEvent } from '@carafe/core/record';
import type { EventsRepository } from '../events/repository';
import type { Progress } from '../jobs/jobs';
import { linesOf } from './fileRows';
import { openStaging } from './staging';
import { noCounts, type CheckTask } from './task';
import { unfold, unfoldedRecords } from './unfold';

type Given = { line: number; value: unknown; wrong?: string };

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
  unfold(file, { ...settings, format: 'json' }, 'events');
  let line = 0;
  for await (const records of unfoldedRecords(file))
    yield records.map((value) => ({ line: ++line, value }));
}

/** Reads a file of events into staging. An id that is known already changes nothing. */
export async function checkEvents(
  known: Pick<EventsRepository, 'isKnown' | 'isAny'>,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const counts = noCounts();
    const any = known.isAny();
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
        if (ids.has(key) || (any && known.isKnown(event.shop, event.id))) {
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
