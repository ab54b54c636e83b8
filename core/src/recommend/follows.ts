import { buyerCount, buyersOf, orderedCount, scratchOf, type History } from './history';
import { byName } from './lines';
import { LEAST_PEOPLE, shrunk } from './pairs';

/** What people buy after a product. */
export interface Follower {
  product: number;
  /** People who bought it after the other. */
  people: number;
  /** How many times more than by chance. */
  lift: number;
  score: number;
  /** The usual time between, in days: the median. */
  days: number;
}

/** What is bought later than this has nothing to do with it any more, in days. */
const LONGEST = 365;
/** So many followers of a product are kept, the best; more are counted when those do not suffice. */
export const FIRST_FOLLOWERS = 50;

const median = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length / 2)] ?? 0;
const inOrder = (numbers: readonly number[]): number[] => [...numbers].sort((a, b) => a - b);

/** What the buyers of a product bought in later orders, by lift, with the usual time between: the best `most`. */
export function followersOf(history: History, product: number, most = FIRST_FOLLOWERS): Follower[] {
  const { bought } = history;
  const buyers = buyersOf(history);
  const products = buyers.starts.length - 1;
  if (product >= products) return [];
  const gaps = new Map<number, number[]>();
  const room = scratchOf(history);
  const { mark: seen } = room;
  const [from, to] = [buyers.starts[product] ?? 0, buyers.starts[product + 1] ?? 0];
  for (let b = from; b < to; b++) {
    const person = buyers.person[b] ?? 0;
    const end = bought.starts[person + 1] ?? 0;
    let day = -1;
    const tick = ++room.tick;
    seen[product] = tick;
    for (let i = bought.starts[person] ?? 0; i < end; i++) {
      const other = bought.product[i] ?? 0;
      const at = bought.day[i] ?? 0;
      if (other === product && day < 0) day = at;
      if (seen[other] === tick) continue;
      // What was bought before or with it is no news after it.
      seen[other] = tick;
      if (day < 0 || at <= day || at - day > LONGEST) continue;
      const known = gaps.get(other);
      if (known) known.push(at - day);
      else gaps.set(other, [at - day]);
    }
  }
  const all = orderedCount(history);
  const found: Follower[] = [];
  for (const [other, days] of gaps) {
    const people = days.length;
    if (people < LEAST_PEOPLE) continue;
    const lift = (people * all) / ((to - from) * buyerCount(history, other));
    if (lift <= 1) continue;
    const score = shrunk(lift, people);
    found.push({ product: other, people, lift, score, days: median(inOrder(days)) });
  }
  const { all: names } = history.products;
  return found
    .sort((a, b) => b.score - a.score || byName(names, a.product, b.product))
    .slice(0, most);
}

/** How often a product is bought again by the same people. */
export interface Repeat {
  /** People who bought it on two days or more. */
  people: number;
  /** The usual time between, in days: the median. */
  days: number;
}

/** After how long each product is bought again, by its number; nothing where fewer than two people did. */
export function repeatsOf({ bought, products }: History): ReadonlyMap<number, Repeat> {
  const people = bought.starts.length - 1;
  const gaps = new Map<number, number[]>();
  const who = new Int32Array(products.all.length);
  const last = new Int32Array(products.all.length).fill(-1);
  const lastDay = new Int32Array(products.all.length);
  const counted = new Int32Array(products.all.length).fill(-1);
  for (let p = 0; p < people; p++)
    for (let i = bought.starts[p] ?? 0; i < (bought.starts[p + 1] ?? 0); i++) {
      const product = bought.product[i] ?? 0;
      const day = bought.day[i] ?? 0;
      if (last[product] === p && day > (lastDay[product] ?? 0)) {
        const known = gaps.get(product);
        if (known) known.push(day - (lastDay[product] ?? 0));
        else gaps.set(product, [day - (lastDay[product] ?? 0)]);
        if (counted[product] !== p) who[product] = (who[product] ?? 0) + 1;
        counted[product] = p;
      }
      last[product] = p;
      lastDay[product] = day;
    }
  return new Map(
    [...gaps].flatMap(([product, days]): [number, Repeat][] =>
      (who[product] ?? 0) < LEAST_PEOPLE
        ? []
        : [[product, { people: who[product] ?? 0, days: median(inOrder(days)) }]],
    ),
  );
}
