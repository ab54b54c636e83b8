import { instantOf } from '../formula';
import type { ShopEvent } from '../record';

const HOUR = 3_600_000;
/** Two events that lie further apart belong to two visits. */
const VISIT_GAP = 2 * HOUR;
const HOURS_A_WEEK = 168;

/** What was put into a cart, as events say it. */
export type Thing = Omit<
  Extract<ShopEvent, { kind: 'cart_added' }>,
  'id' | 'at' | 'shop' | 'email' | 'visitor' | 'person' | 'kind'
>;

/** How a shop’s people behave, as counted from what they did. Plain data. */
export interface Rates {
  people: number;
  /** Milliseconds that were counted over. */
  over: number;
  visits: number;
  /** How many visits began in each hour of the week, Monday first, by the clock of the shop. */
  hours: number[];
  /** Visits that only looked, left a cart, or ordered. */
  looked: number;
  left: number;
  ordered: number;
  /** How many lines carts had, by number, from 1. */
  lines: number[];
  /** How long after its last touch a cart was ordered, in hours: some of them. */
  delays: number[];
  /** What people took, some of it: the more often, the more likely. */
  things: Thing[];
  /** Statuses that followed an order, with the hours after it. */
  statuses: { status: string; hours: number }[];
}

export const noRates = (over: number): Rates => ({
  ...{ people: 0, over, visits: 0, looked: 0, left: 0, ordered: 0 },
  hours: new Array<number>(HOURS_A_WEEK).fill(0),
  ...{ lines: [], delays: [], things: [], statuses: [] },
});

const MOST_KEPT = 2_000;

/** Keeps some of many, each as likely to be kept: by a counter, so that the same past gives the same. */
function keepSome<T>(kept: T[], one: T, count: number): void {
  if (kept.length < MOST_KEPT) kept.push(one);
  else kept[(count * 7919) % MOST_KEPT] = one;
}

/** The hour of the week of an instant, by a clock that is so far ahead of UTC, in milliseconds. */
const hourOf = (at: number, ahead: number): number =>
  Math.floor((at + ahead) / HOUR + 3 * 24) % HOURS_A_WEEK;

/** Counts one person’s events in, of one stretch of time and in order. `ahead` is how far the shop’s clock is ahead of UTC. */
export function countPerson(rates: Rates, events: readonly ShopEvent[], ahead: number): void {
  rates.people++;
  let last = Number.NEGATIVE_INFINITY;
  let visit: 'looked' | 'left' | 'ordered' | null = null;
  let inCart = 0;
  let touched: number | null = null;
  const placed = new Map<string, number>();
  const close = () => {
    if (visit) rates[visit]++;
    visit = null;
  };
  for (const event of events) {
    const at = instantOf(event.at);
    if (event.kind === 'order_status_changed') {
      const since = placed.get(event.number);
      if (since !== undefined)
        keepSome(
          rates.statuses,
          { status: event.status, hours: (at - since) / HOUR },
          rates.statuses.length + rates.visits,
        );
      continue;
    }
    if (event.kind === 'order_cancelled' || event.kind === 'consent_changed') continue;
    if (at - last > VISIT_GAP) {
      close();
      rates.visits++;
      const hour = hourOf(at, ahead);
      rates.hours[hour] = (rates.hours[hour] ?? 0) + 1;
      visit = 'looked';
    }
    last = at;
    if (event.kind === 'cart_added') {
      if (visit === 'looked') visit = 'left';
      const {
        id: _i,
        at: _a,
        shop: _s,
        email: _e,
        visitor: _v,
        person: _p,
        kind: _k,
        ...thing
      } = event;
      keepSome(rates.things, thing, rates.visits + inCart);
      inCart++;
      touched = at;
    } else if (event.kind === 'order_placed') {
      visit = 'ordered';
      placed.set(event.number, at);
      rates.lines[inCart] = (rates.lines[inCart] ?? 0) + 1;
      if (touched !== null) keepSome(rates.delays, (at - touched) / HOUR, rates.ordered);
      inCart = 0;
      touched = null;
    }
  }
  close();
}
