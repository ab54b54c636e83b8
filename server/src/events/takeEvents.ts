import type { EventsTaken } from '@carafe/contract';
import { readEvent, type ShopEvent } from '@carafe/core/record';
import type { Store } from '../database/store';
import type { ToTellRepository } from '../occasions/toTellRepository';
import type { PeopleParts } from '../people/refresh';
import { refreshStale } from '../people/refresh';
import type { ShopsRepository } from '../shops/repository';
import type { SourcesRepository } from '../sources/repository';
import { idTooOften, noShop, otherBefore, placedBefore, toldTooOften } from './refusals';
import { numberOf, type About, type EventsRepository, type Placed } from './repository';
import { takeBackEmpty } from './takeBack';
import { markTouched } from './touched';

export interface TakeEventsTask {
  events: unknown[];
  /** ISO 8601. */
  now: string;
}
export interface TakenEvents extends EventsTaken {
  /** The people who changed, by shop; no ids where they are many. */
  changed: { shop: string; ids: number[] }[];
  /** What was taken; nothing where it is much. */
  events: ShopEvent[];
}

/** So often the next order of a number is tried where the one before it was refused. */
const MOST_GOES = 3;
/** More events than this at once are history, not news. */
const MOST_NEWS = 500;

export interface EventParts extends PeopleParts {
  events: EventsRepository;
  shops: Pick<ShopsRepository, 'list'>;
  sources: Pick<SourcesRepository, 'feeding' | 'touched'>;
  toTell: Pick<ToTellRepository, 'look'>;
}

interface Read {
  event: ShopEvent;
  /** Its place in what was sent, from 1. */
  place: number;
}

const keyOf = ({ shop, id }: { shop: string; id: string }): string => JSON.stringify([shop, id]);

/** What the shop does to an order needs no address: the order has an owner. */
const OF_ORDERS = new Set([
  'order_cancelled',
  'order_status_changed',
  'order_changed',
  'order_refunded',
]);

/** An event about an order, with the address of whose it is; the event itself where it says whom it is about. */
function withOwner(given: unknown, events: EventsRepository, placed: ReadonlyMap<string, string>) {
  const { kind, number, shop, email, visitor } = (given ?? {}) as Record<string, unknown>;
  const isAbout = typeof kind === 'string' && OF_ORDERS.has(kind) && typeof number === 'string';
  if (!isAbout || email !== undefined || visitor !== undefined || typeof shop !== 'string')
    return { one: given, why: null };
  const owner = placed.get(JSON.stringify([shop, number])) ?? events.orderOwners(shop, number)[0];
  return owner === undefined
    ? {
        one: given,
        why: `No order “${number}” is known. Give the person as “email”, or send the order first.`,
      }
    : { one: { ...(given as object), email: owner }, why: null };
}

function readAll(given: readonly unknown[], shops: ReadonlySet<string>, known: EventsRepository) {
  const refused: EventsTaken['refused'] = [];
  const dropped: EventsTaken['dropped'] = [];
  const events: Read[] = [];
  const placed = new Map<string, string>();
  given.forEach((event, i) => {
    const place = i + 1;
    const { one, why } = withOwner(event, known, placed);
    const read = readEvent(one);
    if (why !== null) refused.push({ place, message: why });
    else if (!read.ok) refused.push({ place, message: read.message });
    else if (!shops.has(read.event.shop)) refused.push({ place, message: noShop(read.event.shop) });
    else {
      events.push({ event: read.event, place });
      if (read.dropped.length > 0) dropped.push({ place, names: [...read.dropped] });
      const { kind, shop, email } = read.event;
      if (kind === 'order_placed' && email !== undefined)
        placed.set(JSON.stringify([shop, read.event.number]), email);
    }
  });
  return { events, refused, dropped };
}

/**
 * Takes events as a shop posts them: each once, in any order, those that can be read though others
 * cannot. Whom they are about is put together anew.
 */
export async function takeEvents(
  store: Store,
  parts: EventParts,
  { events: given, now }: TakeEventsTask,
  goes = MOST_GOES,
): Promise<TakenEvents> {
  const {
    events: read,
    refused,
    dropped,
  } = readAll(given, new Set(parts.shops.list().map(({ id }) => id)), parts.events);
  const fresh: Read[] = [];
  /** Orders whose number was taken, each with the event that took it. */
  const repeats: { place: number; number: string; before: Placed; key: string }[] = [];
  /** Events that came again with an id of this very request. */
  const doubles: { place: number; key: string }[] = [];
  const keys = new Set<string>();
  const isNews = read.length <= MOST_NEWS;
  let at = 0;
  let known = 0;
  await store.writeInSlices((size) => {
    const counts = new Map<string, number>();
    for (const { event, place } of read.slice(at, at + size)) {
      const before = event.kind === 'order_placed' && parts.events.placed(event.shop, event.number);
      if (before && before.id !== event.id) {
        repeats.push({ place, number: event.number, before, key: keyOf({ ...event, ...before }) });
        continue;
      }
      const key = keyOf(event);
      if (!parts.events.insert(event)) {
        if (keys.has(key)) doubles.push({ place, key });
        else if (parts.events.isSame(event)) known++;
        else refused.push({ place, message: otherBefore(event.id) });
        continue;
      }
      keys.add(key);
      fresh.push({ event, place });
      // Who is touched is marked with the event: a stop in between loses nobody.
      if (event.email !== undefined) {
        parts.stalePeople.add(event.shop, [event.email]);
        if (event.kind === 'viewed' && isNews) parts.toTell.look(event);
      }
      counts.set(event.shop, (counts.get(event.shop) ?? 0) + 1);
    }
    for (const [shop, count] of counts)
      for (const { id, shop: own } of parts.sources.feeding('events', shop))
        if (own === shop) parts.sources.touched(id, count, now);
    at += size;
    return at < read.length;
  });
  const about = fresh.flatMap(({ event }): About[] => {
    const { shop, email, visitor } = event;
    const number = numberOf(event);
    const ofOrder = number === null ? [] : parts.events.orderOwners(shop, number);
    return [
      { shop, owner: email ?? null, visitor: visitor ?? null },
      ...ofOrder.map((owner) => ({ shop, owner, visitor: null })),
    ];
  });
  const touched = await markTouched(store, parts, about);
  const placed = fresh.flatMap(({ event, place }) =>
    event.kind === 'order_placed' ? [{ event, place }] : [],
  );
  const back = await takeBackEmpty(store, parts, placed, ({ event }) => {
    for (const { id, shop } of parts.sources.feeding('events', event.shop))
      if (shop === event.shop) parts.sources.touched(id, -1, null);
  });
  const empty = new Set<ShopEvent>();
  for (const { one, message } of back.found) {
    empty.add(one.event);
    refused.push({ place: one.place, message });
  }
  const gone = new Set([...empty].map(keyOf));
  const again = repeats.filter(({ key }) => gone.has(key));
  for (const { place, number, before, key } of repeats)
    if (!gone.has(key)) refused.push({ place, message: placedBefore(number, before) });
  // Of an id that was refused nothing is kept: what came again with it is no repetition.
  const anew = doubles.filter(({ key }) => gone.has(key));
  known += doubles.length - anew.length;
  const taken = fresh.filter(({ event }) => !empty.has(event));
  const shops = new Set([...touched, ...back.shops]);
  const changed: TakenEvents['changed'] = [];
  for (const shop of shops) {
    const { ids, count } = await refreshStale(store, parts, shop, { ranks: 'where bought', now });
    if (count > 0) changed.push({ shop, ids });
  }
  const events = taken.length <= MOST_NEWS ? taken.map(({ event }) => event) : [];
  const all = { taken: taken.length, known, refused, dropped, changed, events };
  // What took their number, or their id, was no order after all: these have another go.
  if (goes === 0) {
    for (const { place, number } of again) refused.push({ place, message: toldTooOften(number) });
    for (const { place } of anew) refused.push({ place, message: idTooOften });
  } else if (again.length + anew.length > 0) {
    const places = [...again, ...anew].map(({ place }) => place).sort((a, b) => a - b);
    const sent = places.map((place) => given[place - 1]);
    add(all, await takeEvents(store, parts, { events: sent, now }, goes - 1), places);
  }
  refused.sort((a, b) => a.place - b.place);
  return all;
}

/** Adds what became of some that were sent, whose places are told. */
function add(all: TakenEvents, some: TakenEvents, places: readonly number[]): void {
  all.taken += some.taken;
  all.known += some.known;
  all.refused.push(
    ...some.refused.map(({ place, message }) => ({ place: places[place - 1] ?? place, message })),
  );
  all.dropped.push(
    ...some.dropped.map(({ place, names }) => ({ place: places[place - 1] ?? place, names })),
  );
  all.changed.push(...some.changed);
  all.events.push(...some.events);
}
