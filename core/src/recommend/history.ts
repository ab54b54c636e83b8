import { byProduct, NO_LINES, withLines, type ByProduct, type Line, type Lines } from './lines';
import { Names } from './names';

/** A product that somebody looked at, or put into a cart. */
export interface Seen {
  sku: string;
  /** Milliseconds. */
  at: number;
}
/** One line of an order. */
export interface Bought extends Seen {
  quantity: number;
  /** The price of one. */
  price: number;
  /** What the order calls it. */
  name?: string;
}
/** All that one person did with products. */
export interface Activity {
  /** The address. */
  person: string;
  country?: string | undefined;
  bought: readonly Bought[];
  viewed?: readonly Seen[];
  carted?: readonly Seen[];
}

const KINDS = ['bought', 'viewed', 'carted'] as const;

/** What a shop's people did, on typed arrays: a million lines are some twenty megabytes. It never changes. */
export interface History {
  people: Names;
  products: Names;
  /** What orders call products, by SKU: no catalog may have them any more. */
  namesInOrders: Map<string, string>;
  /** A number for each person: of their country, -1 where it is not known. */
  country: Int16Array;
  countries: Names;
  bought: Lines;
  viewed: Lines;
  carted: Lines;
}

export const noHistory = (): History => ({
  people: new Names(),
  products: new Names(),
  namesInOrders: new Map(),
  country: new Int16Array(),
  countries: new Names(),
  ...{ bought: NO_LINES, viewed: NO_LINES, carted: NO_LINES },
});

/**
 * A history in which some people did what is given, and nothing else; of others it is as it was. Whoever is
 * new joins in. What came after `until` (milliseconds) is left out.
 */
export function withActivity(
  before: History,
  activity: Iterable<Activity>,
  until = Number.POSITIVE_INFINITY,
): History {
  const { people, products, countries, namesInOrders } = before;
  const changed = {
    ...{ bought: new Map<number, Line[]>(), viewed: new Map<number, Line[]>() },
    carted: new Map<number, Line[]>(),
  };
  const ofCountry: [number, string | undefined][] = [];
  for (const one of activity) {
    const person = people.add(one.person);
    ofCountry.push([person, one.country]);
    for (const kind of KINDS) {
      const lines: Line[] = [];
      for (const seen of one[kind] ?? []) {
        if (seen.at > until) continue;
        const { quantity = 1, price = 0, name } = seen as Partial<Bought>;
        if (name) namesInOrders.set(seen.sku, name);
        lines.push({ product: products.add(seen.sku), at: seen.at, quantity, price });
      }
      changed[kind].set(person, lines);
    }
  }
  const count = people.all.length;
  const country = new Int16Array(count).fill(-1);
  country.set(before.country);
  for (const [person, name] of ofCountry) country[person] = name ? countries.add(name) : -1;
  const lines = (kind: (typeof KINDS)[number]) =>
    withLines(before[kind], count, changed[kind], products.all);
  return {
    ...{ people, products, countries, country, namesInOrders },
    ...{ bought: lines('bought'), viewed: lines('viewed'), carted: lines('carted') },
  };
}

/** A history of what people did; what came after `until` (milliseconds) is not in it. */
export const historyOf = (activity: Iterable<Activity>, until?: number): History =>
  withActivity(noHistory(), activity, until);

/** From where to where the lines of a person stand; nothing for somebody who is not known. */
export function stretchOf(
  { people }: History,
  { starts }: Lines,
  person: string,
): readonly [from: number, to: number] {
  const p = people.find(person);
  if (p === undefined || p >= starts.length - 1) return [0, 0];
  return [starts[p] ?? 0, starts[p + 1] ?? 0];
}

/**
 * Room for counting, used again and again: `mark` says for each product at which count it was met last. Whoever
 * counts takes a new `tick` for each person, so that nothing has to be cleared.
 */
export interface Scratch {
  mark: Int32Array;
  counts: Int32Array;
  tick: number;
}
const rooms = new WeakMap<Names, Scratch>();

export function scratchOf({ products }: History): Scratch {
  const size = products.all.length;
  const known = rooms.get(products);
  // Past so many counts, marks of long ago could be met again.
  if (known && known.mark.length >= size && known.tick < 2 ** 30) return known;
  const room = { mark: new Int32Array(size).fill(-1), counts: new Int32Array(size), tick: 0 };
  rooms.set(products, room);
  return room;
}

const turned = new WeakMap<Lines, ByProduct>();

/** Who bought each product, reckoned once. */
export function buyersOf({ bought, products }: History): ByProduct {
  const known = turned.get(bought) ?? byProduct(bought, products.all.length);
  turned.set(bought, known);
  return known;
}

const ordered = new WeakMap<Lines, number>();

/** How many people bought anything: chance is reckoned among them, not among those who only looked. */
export function orderedCount({ bought }: History): number {
  let count = ordered.get(bought);
  if (count === undefined) {
    count = 0;
    for (let p = 1; p < bought.starts.length; p++)
      if ((bought.starts[p] ?? 0) > (bought.starts[p - 1] ?? 0)) count++;
    ordered.set(bought, count);
  }
  return count;
}

/** How many people bought a product. */
export function buyerCount(history: History, product: number): number {
  const { starts } = buyersOf(history);
  return (starts[product + 1] ?? 0) - (starts[product] ?? 0);
}
