import { instantOf } from './instants';
import { spent, type Order } from './fold';

/** What ranking looks at: when somebody last ordered, how often, and for how much in all. */
export interface Buying {
  last_order_at: string | null;
  orders: number;
  spent: number;
}

/** What of an order counts for ranks. */
export type Counted = Pick<Order, 'placed_at' | 'currency' | 'total'>;

/** What somebody had bought until an instant, in milliseconds; of orders that stand, in the order of their placing. */
export function buyingAt(standing: readonly Counted[], at: number): Buying {
  const bought = standing.filter(({ placed_at }) => instantOf(placed_at) <= at);
  const last_order_at = bought.at(-1)?.placed_at ?? null;
  return { last_order_at, orders: bought.length, spent: spent(bought) };
}

/** The fifth, 1 (least) to 5 (best), of somebody who has more than `below` of `all` buyers. */
export const fifthOf = (below: number, all: number): number => 1 + Math.floor((5 * below) / all);

/**
 * Ranks people 1 (least) to 5 (best) by recency, frequency and spend: each is cut into fifths over
 * all who ever ordered, by how many are below, and the mean of the three is rounded (the RFM method;
 * Hughes, Strategic Database Marketing, 1994). Equals share a rank, and who is at least as good in
 * all three never ranks lower. Who never ordered has no rank.
 */
export function ranks(people: readonly Buying[]): (number | undefined)[] {
  const buyers = people.flatMap((p, i) => (p.orders > 0 ? [i] : []));
  const fifths = (figure: (p: Buying) => number): Int8Array => {
    const figures = Float64Array.from(people, figure);
    const sorted = [...buyers].sort((a, b) => (figures[a] ?? 0) - (figures[b] ?? 0));
    const fifth = new Int8Array(people.length);
    let below = 0;
    sorted.forEach((who, place) => {
      if (figures[who] !== figures[sorted[place - 1] ?? who]) below = place;
      fifth[who] = fifthOf(below, sorted.length);
    });
    return fifth;
  };
  const recency = fifths((p) => (p.last_order_at ? Date.parse(p.last_order_at) || 0 : 0));
  const frequency = fifths((p) => p.orders);
  const spend = fifths((p) => p.spent);
  return people.map(({ orders }, i) =>
    orders > 0
      ? Math.round(((recency[i] ?? 0) + (frequency[i] ?? 0) + (spend[i] ?? 0)) / 3)
      : undefined,
  );
}
