import type { Fields } from '@carafe/core/formula';
import { historyOf, shopOf, withActivity, type History, type Shop } from '@carafe/core/recommend';
import { whatChanged, type Products } from '@carafe/core/record';
import type { EventsRepository } from '../events/repository';
import type { SegmentsRepository } from '../occasions/segmentsRepository';
import { everybody, type EverybodyParts } from '../people/everybody';
import type { PeopleRepository } from '../people/repository';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import { activityOfAll, activityOfSome } from './activity';
import type { RulesRepository } from './repository';
import type { TasteRepository } from './tasteRepository';

/** Something that changed in a shop, by a number that counts up. */
export interface Change {
  turn: number;
  shop: string | null;
  /** The people of whom something changed, by their ids; null where they are too many to tell. */
  people: readonly number[] | null;
}

export interface ReadyTask {
  shop: string;
  /** ISO 8601. */
  now: string;
  /** The number of the latest change; null for whatever is kept. */
  turn: number | null;
  /** The latest changes, in order. */
  changes: readonly Change[];
}

export type ReadyParts = SharedParts & {
  people: Pick<PeopleRepository, 'all' | 'data'>;
  events: Pick<EventsRepository, 'seen' | 'seenBy'>;
  entries: Pick<EntriesRepository, 'records' | 'find'>;
  productChanges: Pick<ProductChangesRepository, 'since'>;
  tastes: Pick<TasteRepository, 'find'>;
  rules: Pick<RulesRepository, 'list'>;
  segments: Pick<SegmentsRepository, 'list'>;
} & EverybodyParts;

/** A shop with its indexes. */
export interface Ready {
  shop: Shop;
  history: History;
  turn: number;
  /** As of when it counts, in milliseconds. */
  asOf: number;
  /** When it was made anew as a whole, and how long that took, in milliseconds of this process. */
  madeAt: number;
  took: number;
}

/** Each thread keeps so many shops. */
const MOST_KEPT = 4;
/** Making a shop anew as a whole may take at most this part of a thread's time. */
const REST = 20;
/** By the database that is open. */
const kept = new WeakMap<object, Map<string, Ready>>();

/** What came back longer ago is not picked for that. */
const BACK_DAYS = 365;

function catalogOf(parts: ReadyParts, shop: string, now: Date) {
  const shared = sharedDataOf(parts, shop, now, null);
  if (!shared) return null;
  const catalog: Fields[] = Object.values(shared.catalog).flat();
  const restocked = new Map<string, number>();
  const since = new Date(now.getTime() - BACK_DAYS * 86_400_000).toISOString();
  for (const { id } of parts.sources.feeding('catalog', shop))
    for (const change of parts.productChanges.since(id, since))
      if (change.at <= now.getTime() && whatChanged(change).includes('back'))
        restocked.set(change.sku, change.at);
  const segments = segmentsOf(parts, shop, now);
  const record: Fields = { ...shared.shop };
  return { catalog, beside: { restocked, taste: parts.tastes.find(shop), segments, record } };
}

/** Who is in a segment is asked anew after so long. */
const SEGMENTS_MS = 10 * 60_000;
const members = new WeakMap<object, Map<string, { at: number; of: Set<string> }>>();

/** Who is in the segments that rules of a shop ask for, by their addresses. */
function segmentsOf(parts: ReadyParts, shop: string, now: Date): Map<string, Set<string>> {
  const asked = new Set(
    parts.rules
      .list(shop)
      .flatMap(({ rule, published }) =>
        [...rule.steps, ...published.steps].flatMap(({ step }) =>
          step.kind === 'best_sellers' && step.among === 'segment' ? [step.segment ?? ''] : [],
        ),
      ),
  );
  const known = members.get(parts.people) ?? new Map<string, { at: number; of: Set<string> }>();
  members.set(parts.people, known);
  const found = new Map<string, Set<string>>();
  for (const { name, formula } of parts.segments.list(shop)) {
    if (!asked.has(name)) continue;
    const key = `${shop} ${name} ${formula}`;
    const last = known.get(key);
    const of =
      last && Math.abs(now.getTime() - last.at) < SEGMENTS_MS
        ? last.of
        : membersOf(parts, { shop, formula, now: now.toISOString() });
    if (last?.of !== of) known.set(key, { at: now.getTime(), of });
    found.set(name, of);
  }
  return found;
}

function membersOf(
  parts: ReadyParts,
  task: { shop: string; formula: string; now: string },
): Set<string> {
  const ids: number[] = [];
  for (const given of everybody(parts, task)) if (given?.value === true) ids.push(given.id);
  const of = new Set<string>();
  for (let from = 0; from < ids.length; from += 500)
    for (const { email } of parts.people.some(task.shop, ids.slice(from, from + 500)))
      of.add(email.toLowerCase());
  return of;
}

function keptOf({ people }: ReadyParts): Map<string, Ready> {
  const known = kept.get(people) ?? new Map<string, Ready>();
  kept.set(people, known);
  return known;
}

function remember(shops: Map<string, Ready>, shop: string, ready: Ready): Ready {
  shops.delete(shop);
  shops.set(shop, ready);
  const [oldest] = shops.keys();
  if (shops.size > MOST_KEPT && oldest !== undefined) shops.delete(oldest);
  return ready;
}

/** The history with what happened since: of the people who are told; null where not all can be told. */
function caughtUp(parts: ReadyParts, task: ReadyTask, known: Ready): History | null {
  const oldest = task.changes[0]?.turn ?? known.turn + 1;
  if (oldest > known.turn + 1) return null;
  const ids = new Set<number>();
  for (const { turn, shop, people } of task.changes) {
    if (turn <= known.turn || (shop !== null && shop !== task.shop)) continue;
    if (people === null) return null;
    for (const id of people) ids.add(id);
  }
  if (ids.size === 0) return known.history;
  const data = parts.people.data(task.shop, [...ids]);
  // Who is gone cannot be told by an id any more.
  if (data.length < ids.size) return null;
  return withActivity(known.history, activityOfSome(parts, task.shop, data));
}

/**
 * A shop made ready for picks, kept by each thread. What some people did since is put into its indexes; only
 * after an import all is read anew, and not more often than every so often: until then it is
 * a little old, and says so.
 */
export function readyShop(parts: ReadyParts, task: ReadyTask): Ready | null {
  const shops = keptOf(parts);
  const known = shops.get(task.shop);
  const turn = task.turn ?? 0;
  const asOf = Date.parse(task.now);
  if (known && (task.turn === null || known.turn === task.turn)) return { ...known, asOf };
  const start = performance.now();
  const found = catalogOf(parts, task.shop, new Date(asOf));
  if (!found) return null;
  const { catalog, beside } = found;
  const history = known ? caughtUp(parts, task, known) : null;
  if (known && history) {
    const shop = shopOf(history, catalog, beside);
    return remember(shops, task.shop, { ...known, shop, history, turn, asOf });
  }
  if (known && start - known.madeAt < known.took * REST)
    return { ...known, shop: shopOf(known.history, catalog, beside) };
  const anew = historyOf(activityOfAll(parts, task.shop));
  const shop = shopOf(anew, catalog, beside);
  const took = performance.now() - start;
  return remember(shops, task.shop, {
    ...{ shop, history: anew, turn, asOf, madeAt: performance.now(), took },
  });
}

/**
 * A shop as it was ready at an instant, in milliseconds: from what people did until then, and with its products of then.
 * Everybody is read for it.
 */
export function shopThen(
  parts: ReadyParts,
  { shop, at, products }: { shop: string; at: number; products: Products },
): Shop | null {
  const found = catalogOf(parts, shop, new Date(at));
  if (!found) return null;
  const catalog = found.catalog.map((product) => products.get(String(product['sku'])) ?? product);
  return shopOf(historyOf(activityOfAll(parts, shop, at), at), catalog, found.beside);
}
