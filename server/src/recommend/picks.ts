import type { PicksOfPerson, RuleFigures } from '@carafe/contract';
import type { PersonData, Products } from '@carafe/core/record';
import {
  addPicks,
  nameOf,
  noFigures,
  pick,
  productsInPool,
  sieveOf,
  textOf,
  type Asked,
  type Product,
  type Rule,
  type Shop,
} from '@carafe/core/recommend';
import type { Job } from '../jobs/jobs';
import type { OutboxRepository } from '../outbox/repository';
import type { PeopleRepository } from '../people/repository';
import { askedFor } from './activity';
import { readyShop, shopThen, type ReadyParts, type ReadyTask } from './ready';
import type { RulesRepository } from './repository';

export type PicksTask = ReadyTask & {
  rule: Rule;
  /** The address of the person. */
  person: string;
};
/** By rule. */
type PicksOfOne = NonNullable<PersonData['picks']>;
type ManyTask = ReadyTask & { ids: number[] };
/** By the id of the person. */
type ManyPicked = Record<number, PicksOfOne>;
export type FiguresTask = ReadyTask & { rule: Rule; after: number; most: number };

export interface PickJobs {
  picksOfMany: Job<ManyTask, ManyPicked>;
  /** Null where there is no such shop. */
  picks: Job<PicksTask, PicksOfPerson | null>;
  ruleFigures: Job<FiguresTask, RuleFigures | null>;
}

/** Mails are looked back at so far: as many as any rule may leave out. */
const MOST_MAILS = 20;

type Asking = ReadyParts & { outbox: Pick<OutboxRepository, 'shownTo'> };

/** What rules are asked for a person, with what stood in their last mails where one of them leaves that out. */
function asking(
  parts: Asking,
  shop: string,
  data: PersonData,
  now: number,
  rules: readonly Rule[],
  isThen = false,
): Asked {
  const asked = askedFor(data, now);
  const looksBack = rules.some(({ exclude }) => exclude.shown_mails !== undefined);
  if (!looksBack) return asked;
  const until = isThen ? new Date(now).toISOString() : undefined;
  return { ...asked, shown: parts.outbox.shownTo(shop, asked.person, MOST_MAILS, until) };
}

type Parts = Asking & { people: Pick<PeopleRepository, 'idOf' | 'idsAfter' | 'count'> };

const told = (product: Product) => ({ sku: product.sku, name: nameOf(product) });

/** What the rules of a shop pick for some of its people, as it is known; `now` in ISO 8601. */
export const knownPicks =
  (parts: Parts, { shop, now }: { shop: string; now: string }) =>
  (ids: readonly number[]): ManyPicked =>
    picksOfMany(parts, { shop, now, turn: null, changes: [], ids: [...ids] });

/** What a rule picks for a person of a shop. */
export function picksOf(parts: Parts, task: PicksTask): PicksOfPerson | null {
  const ready = readyShop(parts, task);
  if (!ready) return null;
  const now = Date.parse(task.now);
  const id = parts.people.idOf(task.shop, task.person);
  const [known] = id === null ? [] : parts.people.data(task.shop, [id]);
  const asked = known
    ? asking(parts, task.shop, known.data, now, [task.rule])
    : { person: task.person, cart: [], latest: [], now };
  const { picks, passed } = pick(task.rule, ready.shop, asked);
  return {
    as_of: new Date(ready.asOf).toISOString(),
    sieve: sieveOf(task.rule, ready.shop, asked, picks),
    picks: picks.map(({ product, step, figure, reason }) => ({
      ...told(product),
      ...{ step, figure, reason, product: product.record as Record<string, unknown> },
    })),
    passed: passed.map(({ product, step, why }) => ({ ...told(product), step, why })),
  };
}

/** What every rule of a shop picks for some people, as their records carry it. */
export function picksOfMany(
  parts: Asking & { rules: Pick<RulesRepository, 'list'> },
  task: ManyTask,
): ManyPicked {
  const rules = parts.rules.list(task.shop);
  const ready = rules.length === 0 ? null : readyShop(parts, task);
  if (!ready) return {};
  const now = Date.parse(task.now);
  const all = rules.map(({ published }) => published);
  return Object.fromEntries(
    parts.people.data(task.shop, task.ids).map(({ id, data }) => {
      const asked = asking(parts, task.shop, data, now, all);
      return [id, allPicks(all, ready.shop, asked)];
    }),
  );
}

/** What every rule of a shop picks for somebody of whom nothing is known but what is given. */
export function picksOfStranger(
  parts: Asking & { rules: Pick<RulesRepository, 'list'> },
  task: ReadyTask,
  asked: Asked,
): PicksOfOne {
  const rules = parts.rules.list(task.shop).map(({ published }) => published);
  const ready = rules.length === 0 ? null : readyShop(parts, task);
  return ready ? allPicks(rules, ready.shop, asked) : ({} as PicksOfOne);
}

function allPicks(rules: readonly Rule[], shop: Shop, asked: Asked): PicksOfOne {
  const picks = rules.map((rule) => [
    rule.name,
    pick(rule, shop, asked).picks.map(({ product: { sku }, reason, step }) => ({
      ...{ sku, reason, step },
    })),
  ]);
  return Object.fromEntries(picks) as PicksOfOne;
}

/**
 * What every rule of a shop, as it is today, would have picked for a person at an instant, in milliseconds: from what
 * everybody had done until then. `data` and `products` are those of then.
 */
export function picksThen(
  parts: Asking,
  { shop, data, at, products }: { shop: string; data: PersonData; at: number; products: Products },
): PicksOfOne {
  const rules = parts.rules.list(shop).map(({ published }) => published);
  const then = rules.length === 0 ? null : shopThen(parts, { shop, at, products });
  return then ? allPicks(rules, then, asking(parts, shop, data, at, rules, true)) : {};
}

/** What a rule comes to for some people of a shop: those after an id, so many at most. */
export function figuresOf(parts: Parts, task: FiguresTask): RuleFigures | null {
  const ready = readyShop(parts, task);
  if (!ready) return null;
  const now = Date.parse(task.now);
  const ids = parts.people.idsAfter(task.shop, task.after, task.most);
  const figures = noFigures(task.rule);
  for (const { data } of parts.people.data(task.shop, ids)) {
    const asked = asking(parts, task.shop, data, now, [task.rule]);
    addPicks(figures, task.rule, pick(task.rule, ready.shop, asked).picks, asked.person);
  }
  const pool = task.after === 0 ? productsInPool(task.rule, ready.shop, now) : null;
  return {
    figures,
    people: parts.people.count(task.shop),
    next: ids.length < task.most ? null : (ids.at(-1) ?? null),
    ...(pool && {
      pool: pool.map((product) => ({
        ...told(product),
        category: textOf(product.record, 'category'),
      })),
    }),
  };
}
