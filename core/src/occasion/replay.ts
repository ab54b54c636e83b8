import { instantOf } from '../formula';
import { foldEvent, NEW_SHOPPER, type PersonData, type ShopEvent, type Shopper } from '../record';
import type { Happening, Moment } from './define';
import type { Effect } from './effects';
import { advance } from './engine';
import type { World } from './plan';
import type { Moments, MomentOf } from './moment';
import { NEW_STATE, type PersonState } from './state';

/** Something that happened to the shop and not to one person: a post, a price, a time. */
export interface Dated {
  at: number;
  happening: Happening;
}

export interface ReplayPerson {
  /** As they are now. */
  data: PersonData;
  /** Their events, in order. */
  events: readonly ShopEvent[];
  /** What they are at the beginning, where their events are only what comes after: carts and orders, and what they looked at. */
  before?: { shopper: Shopper; looked: ReadonlyMap<string, number> };
  /** Their fields as they were known at an instant, the very same ones between two changes; without it, as they are now. */
  fieldsThen?: (at: number) => PersonData['person'];
  /** Their rank as it was at an instant; without it, as it is now. */
  rankThen?: (at: number) => number | undefined;
}

export interface ReplayOptions {
  world: World;
  moments: Moments;
  /** In order. */
  dated: readonly Dated[];
  /** Milliseconds; what was before counts as what the shop knew. */
  from: number;
  until: number;
  /** Is told the person at each instant at which something was told, for explanations. */
  look?: (effects: readonly Effect[], of: MomentOf) => void;
}

/** How somebody came back to a cart: how long after it was touched last the order came, in milliseconds; null for never. */
export interface Return {
  left: number;
  after: number | null;
}

export interface Replayed {
  effects: Effect[];
  state: PersonState;
  returns: Return[];
}

/** Of somebody’s states only the last is asked for. */
const USED = { usesUp: true };

/** A person with the consent that an event told last; where none did, with what else is known of it. */
export function withConsent(
  person: PersonData['person'],
  { consent }: Shopper,
): PersonData['person'] {
  const isOther =
    consent !== null && (person as Record<string, unknown>)['consent'] !== consent.given;
  return isOther ? { ...person, consent: consent.given } : person;
}

/** Where nothing is folded, whole imports are what is known: carts and orders of files stand from the beginning. */
const imported = ({ shopper }: PersonData, events: readonly ShopEvent[]): Shopper =>
  events.length > 0 ? NEW_SHOPPER : { ...shopper };

/**
 * Walks one person through what happened, as if occasions had been on. The same engine as the live clock, on the state
 * of the person at each instant.
 */
export function replayPerson(
  {
    data,
    events,
    before,
    fieldsThen = () => data.person,
    rankThen = () => data.rank,
  }: ReplayPerson,
  { world, moments, dated, from, until, look }: ReplayOptions,
): Replayed {
  let shopper = before?.shopper ?? imported(data, events);
  let state: PersonState = { ...NEW_STATE, settled: {} };
  const effects: Effect[] = [];
  const returns: Return[] = [];
  const looked = new Map<string, number>(before?.looked);
  let left: number | null = null;

  // What is made of somebody is kept by who they are: the same as long as nothing happens.
  let fields: PersonData['person'] | null = null;
  let known = data;
  const of = (at: number, happening: Happening | null = null): MomentOf => {
    const [now, rank] = [fieldsThen(at), rankThen(at)];
    if (known.shopper !== shopper || fields !== now || known.rank !== rank) {
      fields = now;
      const { rank: _, ...others } = data;
      const person = withConsent(now, shopper);
      known = { ...others, person, shopper, ...(rank !== undefined && { rank }) };
    }
    return { data: known, at, happening, looked };
  };
  const momentAt = (at: number): Moment => moments.moment(of(at));
  const take = (told: ReturnType<typeof advance>, at: number) => {
    ({ state } = told);
    if (told.effects.length === 0) return;
    effects.push(...told.effects);
    look?.(told.effects, of(at));
  };
  const tick = (to: number) => {
    // One due time after the other, so that what is told is told as of its own instant.
    for (;;) {
      let due = Number.POSITIVE_INFINITY;
      for (const run of state.runs) due = Math.min(due, run.due);
      if (due > to) return;
      take(advance(state, { kind: 'time', until: due, moment: momentAt }, world, USED), due);
    }
  };
  /** What became of a product is told to whom it may interest alone: it may have become of a thousand. */
  const concerns = ({ happening }: Dated): boolean =>
    happening.kind !== 'product' ||
    looked.has(happening.sku) ||
    (shopper.cart?.lines.some(({ sku }) => sku === happening.sku) ?? false);
  const happen = (at: number, happening: Happening) =>
    take(
      advance(state, { kind: 'happening', moment: moments.moment(of(at, happening)) }, world, USED),
      at,
    );

  let next = 0;
  const dueDated = (to: number) => {
    for (; next < dated.length; next++) {
      const one = dated[next];
      if (!one || one.at > to) return;
      if (one.at < from || !concerns(one)) continue;
      tick(one.at - 1);
      happen(one.at, one.happening);
    }
  };
  let isFirst = true;
  for (const event of events) {
    const at = instantOf(event.at);
    if (at > until) break;
    if (at >= from) {
      if (isFirst) happen(from, { kind: 'person' });
      isFirst = false;
      dueDated(at);
      tick(at - 1);
    }
    const { cart } = shopper;
    shopper = foldEvent(shopper, event);
    if (event.kind === 'viewed') looked.set(event.sku, at);
    if (at < from) continue;
    if (event.kind === 'order_placed' && cart && shopper.cart?.id !== cart.id) {
      returns.push({
        left: instantOf(cart.updated_at),
        after: at - instantOf(cart.updated_at),
      });
      left = null;
    } else if (shopper.cart) left = instantOf(shopper.cart.updated_at);
    else left = null;
    happen(at, { kind: 'person', event });
  }
  if (isFirst) happen(from, { kind: 'person' });
  dueDated(until);
  tick(until);
  if (left !== null) returns.push({ left, after: null });
  return { effects, state, returns };
}
