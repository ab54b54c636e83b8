import type { Shopper } from './fold';

/**
 * Ranks people 1 (least) to 5 (best) by recency, frequency and spend: each is cut into fifths over
 * all who ever ordered, and the mean of the three is rounded (the RFM method; Hughes, Strategic
 * Database Marketing, 1994). Who never ordered has no rank.
 */
export function ranks(shoppers: readonly Shopper[]): (number | undefined)[] {
  const buyers = shoppers.flatMap((s, i) => (s.orders.length > 0 ? [i] : []));
  const fifths = (figure: (s: Shopper) => number): Map<number, number> => {
    const sorted = [...buyers].sort((a, b) => figureAt(a, figure) - figureAt(b, figure));
    return new Map(sorted.map((who, place) => [who, 1 + Math.floor((5 * place) / sorted.length)]));
  };
  const figureAt = (i: number, figure: (s: Shopper) => number) => figure(shoppers[i] as Shopper);
  const recency = fifths((s) => Date.parse(s.orders.at(-1)?.placed_at ?? '') || 0);
  const frequency = fifths((s) => s.orders.length);
  const spend = fifths((s) => s.orders.reduce((sum, o) => sum + o.total, 0));
  return shoppers.map((_, i) => {
    const parts = [recency.get(i), frequency.get(i), spend.get(i)];
    if (parts.some((p) => p === undefined)) return undefined;
    return Math.round(parts.reduce<number>((sum, p) => sum + (p ?? 0), 0) / 3);
  });
}
