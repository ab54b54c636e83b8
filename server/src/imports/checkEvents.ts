import type { ImportCounts } from '@carafe/contract';
import { noShop, placedBefore } from '../events/refusals';
import type { EventsRepository, Placed } from '../events/repository';
import type { Progress } from '../jobs/jobs';
import type { ShopsRepository } from '../shops/repository';
import type { Reading } from './readBeside';
import { FileCarts } from './fileCarts';
import { openStaging } from './staging';
import { noCounts, type CheckTask } from './task';

/** So much of an event that is refused is kept to be shown. */
const MOST_SHOWN = 500;

/** What checking events reads: what is known already, and the file. */
export interface CheckEventParts {
  events: Pick<EventsRepository, 'isKnown' | 'isAny' | 'placed'>;
  shops: Pick<ShopsRepository, 'find'>;
  reading: Reading;
}

/** What is known of a shop while a file is read. */
interface InShop {
  ids: Set<string>;
  /** The orders that were placed, by their numbers. */
  orders: Map<string, Placed>;
  owners: Set<string>;
  visitors: Set<string>;
}

const nothingYet = (): InShop => ({
  ...{ ids: new Set(), orders: new Map(), owners: new Set(), visitors: new Set() },
});

/** Reads a file of events into staging. An id that is known already changes nothing. */
export async function checkEvents(
  { events: known, shops: allShops, reading }: CheckEventParts,
  task: CheckTask,
  progress: Progress,
): Promise<ImportCounts> {
  const staging = openStaging(task.staging, { fresh: true });
  try {
    const counts = noCounts();
    const any = known.isAny();
    // Null for a name that no shop has.
    const shops = new Map<string, InShop | null>();
    const inShop = (shop: string): InShop | null => {
      const own = allShops.find(shop) ? nothingYet() : null;
      shops.set(shop, own);
      return own;
    };
    const carts = new FileCarts();
    const reject = (line: number, text: string | undefined, message: string) => {
      counts.rejected++;
      staging.reject(line, null, [text?.slice(0, MOST_SHOWN)], [{ column: 'event', message }]);
    };
    staging.setColumns(['event']);
    staging.begin();
    for await (const batch of reading.events(task)) {
      for (const event of batch) {
        counts.read++;
        const { line, text } = event;
        if (event.wrong !== undefined) {
          reject(line, text, event.wrong);
          continue;
        }
        const { shop, id, at, kind, number } = event;
        if (task.shop !== null && shop !== task.shop) {
          reject(
            line,
            text,
            `It belongs to shop “${shop}”, but this source is for “${task.shop}”.`,
          );
          continue;
        }
        let own = shops.get(shop);
        if (own === undefined) own = inShop(shop);
        if (!own) {
          reject(line, text, noShop(shop));
          continue;
        }
        if (own.ids.has(id) || (any && known.isKnown(shop, id))) {
          counts.unchanged++;
          continue;
        }
        if (kind === 'order_placed' && number !== null) {
          const before = own.orders.get(number) ?? (any ? known.placed(shop, number) : undefined);
          if (before) {
            reject(line, text, placedBefore(number, before));
            continue;
          }
          own.orders.set(number, { id, at });
        }
        own.ids.add(id);
        if (event.email !== undefined) own.owners.add(event.email);
        if (event.visitor !== undefined) own.visitors.add(event.visitor);
        counts.new++;
        staging.stageEvent(event, carts.see(event));
      }
      await progress(counts.read);
    }
    for (const [shop, own] of shops) if (own) staging.about(shop, own.owners, own.visitors);
    staging.doubt(carts.doubtful());
    staging.finish();
    return counts;
  } finally {
    staging.close();
  }
}
