import type { PicksOfPerson } from '@carafe/contract';
import type { Fields } from '@carafe/core/formula';
import { standing, type PersonData } from '@carafe/core/record';
import {
  historyOf,
  pick,
  shopOf,
  type Asked,
  type Bought,
  type Rule,
  type Shop,
} from '@carafe/core/recommend';
import type { Job } from '../jobs/jobs';
import type { PeopleRepository } from '../people/repository';
import type { RulesRepository } from './repository';
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
type ManyTask = Pick<PicksTask, 'shop' | 'now' | 'turn'> & { ids: number[] };
/** By the id of the person. */
type ManyPicked = Record<number, NonNullable<PersonData['picks']>>;

export interface PickJobs {
  picksOfMany: Job<ManyTask, ManyPicked>;
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
function shopAt(
  parts: Parts,
  { shop, now, turn }: Pick<PicksTask, 'shop' | 'now' | 'turn'>,
): Shop | null {
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

/** What of a person a rule is asked with. */
function askedFor({ person, shopper }: PersonData, now: string): Asked {
  const skus = (lines: readonly { sku: string }[] = []) => lines.map(({ sku }) => sku);
  return {
    person: String(person['email'] ?? ''),
    cart: skus(shopper.cart?.lines),
    latest: skus(standing(shopper.orders).at(-1)?.lines),
    now: Date.parse(now),
  };
}

/** What a rule picks for a person of a shop. */
export function picksOf(parts: Parts, task: PicksTask): PicksOfPerson | null {
  const shop = shopAt(parts, task);
  if (!shop) return null;
  const id = parts.people.idOf(task.shop, task.person);
  const [known] = id === null ? [] : parts.people.data(task.shop, [id]);
  const asked = known
    ? askedFor(known.data, task.now)
    : { person: task.person, cart: [], latest: [], now: Date.parse(task.now) };
  const { picks, passed } = pick(task.rule, shop, asked);
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

/** What every rule of a shop picks for some people, as their records carry it. */
export function picksOfMany(
  parts: Parts & { rules: Pick<RulesRepository, 'list'> },
  task: ManyTask,
): ManyPicked {
  const rules = parts.rules.list(task.shop);
  const shop = rules.length === 0 ? null : shopAt(parts, task);
  if (!shop) return {};
  return Object.fromEntries(
    parts.people.data(task.shop, task.ids).map(({ id, data }) => {
      const asked = askedFor(data, task.now);
      const picks = rules.map(({ rule }) => [
        rule.name,
        pick(rule, shop, asked).picks.map(({ product: { sku }, reason }) => ({ sku, reason })),
      ]);
      return [id, Object.fromEntries(picks) as NonNullable<PersonData['picks']>];
    }),
  );
}
