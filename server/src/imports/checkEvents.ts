import type { ImportCounts } from '@carafe/contract';
import { FormatError, readNdjsonLine } from '@carafe/core/formats';
import { readEvent } from '@carafe/core/record';
import { placedBefore } from '../events/refusals';
import type { EventsRepository, Placed } from '../events/repository';
import type { Progress } from '../jobs/jobs';
import { linesOf } from './fileRows';
import { FileCarts } from './fileCarts';
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
  known: Pick<EventsRepository, 'isKnown' | 'isAny' | 'placed'>,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const counts = noCounts();
    const any = known.isAny();
    const ids = new Map<string, Set<string>>();
    const numbers = new Map<string, Placed>();
    const carts = new FileCarts();
    staging.setColumns(['event']);
    staging.begin();
    for await (const batch of eventsIn(task)) {
      for (const { line, value, wrong } of batch) {
        counts.read++;
        const read =
          wrong === undefined ? readEvent(value) : ({ ok: false, message: wrong } as const);
        const reject = (message: string) => {
          counts.rejected++;
          const cells = [JSON.stringify(value)?.slice(0, 500)];
          staging.reject(line, null, cells, [{ column: 'event', message }]);
        };
        if (!read.ok) {
          reject(read.message);
          continue;
        }
        const { event } = read;
        if (task.shop !== null && event.shop !== task.shop) {
          reject(`It is of shop “${event.shop}”; this source is for “${task.shop}”.`);
          continue;
        }
        let own = ids.get(event.shop);
        if (!own) ids.set(event.shop, (own = new Set()));
        if (own.has(event.id) || (any && known.isKnown(event.shop, event.id))) {
          counts.unchanged++;
          continue;
        }
        if (event.kind === 'order_placed') {
          const order = `${event.shop} ${event.number}`;
          const before =
            numbers.get(order) ?? (any ? known.placed(event.shop, event.number) : undefined);
          if (before) {
            reject(placedBefore(event.number, before));
            continue;
          }
          numbers.set(order, { id: event.id, at: event.at });
        }
        own.add(event.id);
        counts.new++;
        staging.stageEvent(line, event, carts.see(event));
      }
      await progress(counts.read);
    }
    staging.doubt(carts.doubtful());
    staging.finish();
    return counts;
  } finally {
    staging.close();
  }
}
