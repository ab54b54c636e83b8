import type { Plan } from '@carafe/core/occasion';
import { figure } from '@carafe/core/words';
import type { Store } from '../database/store';
import type { OutboxRepository } from '../outbox/repository';
import type { CrowdsRepository } from './crowdsRepository';
import type { ShopRulesRepository } from './segmentsRepository';

interface CountParts {
  crowds: Pick<CrowdsRepository, 'uncounted' | 'fullestHour' | 'ask' | 'end'>;
  shopRules: Pick<ShopRulesRepository, 'get'>;
  outbox: Pick<OutboxRepository, 'holdCrowd'>;
}

/** Those that start by the clock are for many by nature: how many is asked before they are switched on. */
export const asksForCrowds = ({ occasion: { start } }: Plan): boolean =>
  start.kind !== 'at_time' && start.kind !== 'repeating';

/** Why emails of a crowd are held. */
const sayCrowd = (people: number, most: number): string =>
  `${figure(people)} people entered this occasion within an hour. The shop’s limit is ${figure(most)}.`;

/**
 * Everybody was let in: an occasion that more people entered within an hour than the shop allows is held, all that it
 * has not sent yet, until somebody has answered. Those whom a stop kept from being counted are counted as well.
 */
export async function countCrowds(
  store: Store,
  { crowds, shopRules, outbox }: CountParts,
): Promise<void> {
  for (const { occasion, shop, from } of crowds.uncounted()) {
    const most = shopRules.get(shop).most_an_hour;
    const people = crowds.fullestHour(occasion, from);
    if (people <= most) {
      await store.write(() => crowds.end(occasion));
      continue;
    }
    // Held before it is asked: a stop in between leaves them to be counted again.
    await store.writeInSlices((size) => {
      const reason = sayCrowd(people, most);
      return outbox.holdCrowd(occasion, reason, size) === size;
    });
    await store.write(() => crowds.ask(occasion, people, most));
  }
}
