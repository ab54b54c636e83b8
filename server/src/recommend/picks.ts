import type { PicksOfPerson } from '@carafe/contract';
import type { Fields } from '@carafe/core/formula';
import { standing, type PersonData } from '@carafe/core/record';
import { historyOf, pick, shopOf, type Bought, type Rule, type Shop } from '@carafe/core/recommend';
import type { Job } from '../jobs/jobs';
import type { PeopleRepository } from '../people/repository';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';

export interface PicksTask {
  shop: string;
  rule: Rule;
  /** The address of the person. */
  person: string;
  /** ISO 8601. */
  now: string;
  /** It changes whenever anything of the shop did: what was made ready for another is made anew. */
  turn: string;
}
export interface PickJobs {
  /** Null where there is no such shop. */
  picks: Job<PicksTask, PicksOfPerson | null>;
}

type Parts = SharedParts & { people: Pick<PeopleRepository, 'all' | 'idOf' | 'data'> };

/** All that somebody bought, as lines of the history. */
function boughtBy({ person, shopper }: PersonData): Bought[] {
  return standing(shopper.orders).flatMap(({ placed_at: at, lines }) =>
    lines.map(({ sku, quantity, price }) => ({
      ...{ person: String(person['email']), sku, quantity, price },
      at: Date.parse(at),
    })),
  );
}

let ready: { key: string; shop: Shop } | null = null;

/** The shop with its indexes, kept by each thread until something changes. */
function shopAt(parts: Parts, { shop, now, turn }: PicksTask): Shop | null {
  const key = `${shop} ${turn}`;
  if (ready?.key === key) return ready.shop;
  const shared = sharedDataOf(parts, shop, new Date(now), null);
  if (!shared) return null;
  const lines: Bought[] = [];
  for (const data of parts.people.all(shop)) lines.push(...boughtBy(data));
  const catalog: Fields[] = Object.values(shared.catalog).flat();
  ready = { key, shop: shopOf(historyOf(lines), catalog) };
  return ready.shop;
}

/** What a rule picks for a person of a shop. */
export function picksOf(parts: Parts, task: PicksTask): PicksOfPerson | null {
  const shop = shopAt(parts, task);
  if (!shop) return null;
  const id = parts.people.idOf(task.shop, task.person);
  const [known] = id === null ? [] : parts.people.data(task.shop, [id]);
  const skus = (lines: readonly { sku: string }[] = []) => lines.map(({ sku }) => sku);
  const { picks, passed } = pick(task.rule, shop, {
    person: task.person,
    cart: skus(known?.data.shopper.cart?.lines),
    latest: skus(known && standing(known.data.shopper.orders).at(-1)?.lines),
    now: Date.parse(task.now),
  });
  const told = ({ sku, record }: { sku: string; record: Fields }) => ({
    sku,
    name: String((record as Record<string, unknown>)['name'] ?? sku),
  });
  return {
    picks: picks.map(({ product, step, figure, reason }) => ({
      ...told(product),
      ...{ step, figure, reason },
    })),
    passed: passed.map(({ product, step, why }) => ({ ...told(product), step, why })),
  };
}
