import { buyerCount, buyersOf, orderedCount, scratchOf, type History } from './history';
import { counted } from '../words';
import { byName } from './lines';

/** A product beside another, by how many people bought both. */
export interface Pair {
  product: number;
  /** People who bought both. */
  people: number;
  /** How many times more than by chance: P(both) / (P(one) · P(other)). */
  lift: number;
  /** The lift as it counts: of few people less. */
  score: number;
}

/** Of one person so many lines count, the latest: who bought everything says little of what goes together. */
const MOST_OF_ONE = 200;
/** So many pairs of a product are kept, the best; more are counted when those do not suffice. */
export const FIRST_PAIRS = 60;
/** Fewer people than these are no pair. */
export const LEAST_PEOPLE = 2;

/** Fewer people than these say little. */
const FEW = 5;

/** On how many people a figure rests; where they are few, that is said. */
export const sayPeople = (people: number): string =>
  `${people < FEW ? 'only ' : ''}${counted(people, 'person', 'people')}`;

/** A lift that rests on so many people counts half. In trials on past orders it hit more often than less did. */
const HALF = 20;

/** Pairs of few people have a large lift by chance alone, so it is shrunk by `people / (people + 20)`. */
export const shrunk = (lift: number, people: number): number => lift * (people / (people + HALF));

/**
 * What the buyers of a product bought besides, by lift with a floor on how many they are (Agrawal, Imieliński
 * and Swami 1993 call the latter support). Counted from the lists of buyers when it is asked for: no table of
 * pairs is kept, so a new order costs nothing here. Gives the best `most`, or all for `Infinity`.
 */
export function pairsOf(history: History, product: number, most = FIRST_PAIRS): Pair[] {
  const { bought } = history;
  const buyers = buyersOf(history);
  const products = buyers.starts.length - 1;
  if (product >= products) return [];
  const room = scratchOf(history);
  const { mark, counts: together } = room;
  const found: number[] = [];
  const [from, to] = [buyers.starts[product] ?? 0, buyers.starts[product + 1] ?? 0];
  for (let b = from; b < to; b++) {
    const person = buyers.person[b] ?? 0;
    const end = bought.starts[person + 1] ?? 0;
    const tick = ++room.tick;
    for (let i = Math.max(bought.starts[person] ?? 0, end - MOST_OF_ONE); i < end; i++) {
      const other = bought.product[i] ?? 0;
      if (other === product || mark[other] === tick) continue;
      mark[other] = tick;
      if (together[other] === 0) found.push(other);
      together[other] = (together[other] ?? 0) + 1;
    }
  }
  const all = orderedCount(history);
  const pairs: Pair[] = [];
  for (const other of found) {
    const people = together[other] ?? 0;
    together[other] = 0;
    if (people < LEAST_PEOPLE) continue;
    const lift = (people * all) / ((to - from) * buyerCount(history, other));
    // What is bought together no more often than by chance does not go together.
    if (lift <= 1) continue;
    pairs.push({ product: other, people, lift, score: shrunk(lift, people) });
  }
  const { all: names } = history.products;
  return pairs
    .sort((a, b) => b.score - a.score || byName(names, a.product, b.product))
    .slice(0, most);
}
