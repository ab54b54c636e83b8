import type { ShopEvent } from '../record';
import type { Rates } from './rates';

const HOUR = 3_600_000;
const WEEK = 168 * HOUR;

/** Numbers from 0 to 1 that are the same for the same seed (mulberry32). */
export function chances(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Draws a place by its weight; adds up once, and looks by halves. */
export function drawer(weights: readonly number[]): (chance: number) => number {
  const sums: number[] = [];
  let sum = 0;
  for (const weight of weights) sums.push((sum += weight ?? 0));
  return (chance) => {
    let [low, high] = [0, sums.length - 1];
    const wanted = chance * sum;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((sums[middle] ?? 0) > wanted) high = middle;
      else low = middle + 1;
    }
    return low;
  };
}

/** How many visits somebody makes in a stretch of time (Poisson; Knuth’s way, for small means). */
function poisson(mean: number, chance: () => number): number {
  const limit = Math.exp(-Math.min(mean, 50));
  let n = 0;
  for (let product = chance(); product > limit; product *= chance()) n++;
  return n;
}

const one = <T>(of: readonly T[], chance: number): T | undefined =>
  of[Math.floor(chance * of.length)];

export interface Coming {
  rates: Rates;
  seed: number;
  from: number;
  until: number;
  shop: string;
  currency: string;
  /** How far the shop’s clock is ahead of UTC, in milliseconds. */
  ahead: number;
}

/** Makes up what people will do, by how they did so far. The same seed gives the same. */
export function shoppersOf({ rates, seed, from, until, shop, currency, ahead }: Coming) {
  const hour = drawer(rates.hours);
  const lines = drawer(rates.lines);
  const visits = Math.max(1, rates.visits);
  const perPerson = rates.visits / Math.max(1, rates.people) / Math.max(1, rates.over);
  const weekBegins = (at: number) => {
    const shown = at + ahead + 3 * 24 * HOUR;
    return at - (shown % WEEK);
  };
  return (person: { id: number; email: string }): ShopEvent[] => {
    const chance = chances(seed ^ Math.imul(person.id, 0x9e3779b1));
    const events: ShopEvent[] = [];
    let count = 0;
    const { email } = person;
    const nextId = () => `r${person.id}-${count++}`;
    const iso = (at: number) => new Date(at).toISOString();
    const visit = (at: number) => {
      const how = chance();
      const thing = one(rates.things, chance());
      if (!thing) return;
      const { sku } = thing;
      events.push({ id: nextId(), at: iso(at), shop, email, kind: 'viewed', sku });
      if (how < rates.looked / visits) return;
      const many = Math.max(1, lines(chance()));
      let touched = at;
      for (let i = 0; i < many; i++) {
        const taken = i === 0 ? thing : (one(rates.things, chance()) ?? thing);
        touched = at + (i + 1) * 120_000;
        const id = nextId();
        const when = iso(touched);
        events.push({ ...taken, currency, id, at: when, shop, email, kind: 'cart_added' });
      }
      if (how < (rates.looked + rates.left) / visits) return;
      const delay = (one(rates.delays, chance()) ?? 0.2) * HOUR;
      const placed = touched + Math.max(60_000, delay);
      const number = `R${person.id}-${count}`;
      events.push({ id: nextId(), at: iso(placed), shop, email, kind: 'order_placed', number });
      const after = one(rates.statuses, chance());
      if (!after) return;
      const changed = { id: nextId(), at: iso(placed + after.hours * HOUR), shop, email };
      const { status } = after;
      events.push({ ...changed, kind: 'order_status_changed', number, status });
    };
    for (let week = weekBegins(from); week < until; week += WEEK)
      for (let n = poisson(perPerson * WEEK, chance); n > 0; n--) {
        const at = week + hour(chance()) * HOUR + Math.floor(chance() * HOUR);
        if (at >= from && at < until) visit(at);
      }
    return events.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  };
}
