import type { WalkLine } from '@carafe/contract';
import { wallIn } from '@carafe/core/formula';
import {
  formulasOf,
  countIn,
  daysFrom,
  countPerson,
  noFigures,
  noRates,
  planOf,
  replayPerson,
  shoppersOf,
  toldEffect,
  type Occasion,
  type OccasionFigures,
  type Rates,
  type World,
} from '@carafe/core/occasion';
import { type PersonData, type ProductChange } from '@carafe/core/record';
import type { Template } from '@carafe/core/template';
import type { EventsRepository } from '../events/repository';
import type { Job } from '../jobs/jobs';
import type { LibraryParts } from '../library/shopLibrary';
import type { PeopleRepository } from '../people/repository';
import type { picksOfMany } from '../recommend/picks';
import type { SharedParts } from '../shops/sharedData';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';
import { datedOf } from './dated';
import { asksLooked, lookedLately } from './looked';
import { peopleThen, rankOfDay, type PastPeopleParts } from './pastPeople';
import { sayLine } from './lines';
import { asKnown, shopMoments, withAsked, type MomentParts } from './shopMoments';

interface Draft {
  id: string;
  occasion: Occasion;
}
export interface ReplayTask {
  shop: string;
  occasions: Draft[];
  mode: 'replay' | 'rehearse';
  days: number;
  seed: number;
  /** Of the people that are looked at. */
  ids: readonly number[];
  /** Milliseconds. */
  now: number;
}
export interface WalkTask {
  shop: string;
  id: string;
  occasion: Occasion;
  person: number;
  days: number;
  now: number;
}
export interface ReplayJobs {
  replay: Job<ReplayTask, OccasionFigures | null>;
  walk: Job<WalkTask, WalkLine[] | null>;
}
export type ReplayParts = MomentParts &
  SharedParts &
  LibraryParts &
  Parameters<typeof picksOfMany>[0] &
  PastPeopleParts & {
    people: Pick<PeopleRepository, 'data' | 'bare' | 'spread'>;
    events: Pick<EventsRepository, 'of'>;
    productChanges: Pick<ProductChangesRepository, 'since'>;
    templates: Pick<TemplatesRepository, 'find'>;
    published: Pick<PublishedRepository, 'last' | 'document'>;
  };

const DAY = 86_400_000;
/** Rates are counted over so many days. */
const RATES_DAYS = 90;
/** Of about so many people: more would tell the same. */
const MOST_COUNTED = 2_000;
const NOTHING_LOOKED: ReadonlyMap<string, number> = new Map();

export const emailOf = ({ person }: PersonData): string =>
  String((person as { email?: unknown }).email ?? '').toLowerCase();

const worldOfDrafts = (drafts: readonly Draft[], since: number): World => {
  const plans = drafts.map(({ id, occasion }) => planOf(id, 1, occasion, since));
  return { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };
};

/** What imports have changed of the products of a shop since an instant. */
export const changesSince = (parts: ReplayParts, shop: string, from: number): ProductChange[] =>
  parts.sources
    .feeding('catalog', shop)
    .flatMap(({ id }) => parts.productChanges.since(id, new Date(from).toISOString()));

/** What was counted of a shop’s people, kept by each thread for a day. */
const kept = new WeakMap<object, Map<string, Rates>>();

function ratesOf(parts: ReplayParts, shop: string, now: number, ahead: number): Rates {
  const day = Math.floor(now / DAY);
  const key = `${shop} ${day}`;
  const known = kept.get(parts.people) ?? new Map<string, Rates>();
  kept.set(parts.people, known);
  const found = known.get(key);
  if (found) return found;
  // Of whole days: whatever happens meanwhile, all parts of a rehearsal are made up by the same.
  const [since, until] = [day - RATES_DAYS, day].map((of) => new Date(of * DAY).toISOString());
  const rates = noRates(RATES_DAYS * DAY);
  for (const data of parts.people.spread(shop, MOST_COUNTED))
    countPerson(
      rates,
      parts.events
        .of(shop, emailOf(data))
        .filter(({ at }) => at >= (since ?? '') && at < (until ?? '')),
      ahead,
    );
  known.clear();
  known.set(key, rates);
  return rates;
}

/** Which rehearsal it is: the same one makes up the same. */
export interface Rehearsal {
  /** Milliseconds. */
  now: number;
  days: number;
  seed: number;
}

/** What people of a shop do in a rehearsal. */
export function shoppersIn(
  parts: ReplayParts,
  { id, timezone, currency }: { id: string; timezone: string; currency: string },
  { now, days, seed }: Rehearsal,
): ReturnType<typeof shoppersOf> {
  const ahead = wallIn(new Date(now), timezone) - now;
  return shoppersOf({
    ...{ rates: ratesOf(parts, id, now, ahead), seed, from: now, until: now + days * DAY },
    ...{ shop: id, currency, ahead },
  });
}

/** Occasions over some of the people of a shop: over what happened, or over what simulated shoppers will do. */
export function replaySome(parts: ReplayParts, task: ReplayTask): OccasionFigures | null {
  const { shop, occasions, mode, days, now, ids } = task;
  const formulas = occasions.flatMap(({ occasion }) => formulasOf(occasion));
  const isPast = mode === 'replay';
  const from = isPast ? now - days * DAY : now;
  const until = isPast ? now : now + days * DAY;
  const changes = isPast ? changesSince(parts, shop, from) : [];
  const made = shopMoments(parts, shop, new Date(now), { formulas, changes, isPast });
  const found = parts.shops.find(shop);
  if (!made || !found) return null;
  const zone = found.timezone;
  const dated = datedOf(parts, { shop, drafts: occasions, from, until, zone, changes });
  const world = worldOfDrafts(occasions, from);
  const options = { world, moments: made.moments, dated, from, until };
  const shoppers = isPast ? null : shoppersIn(parts, found, task);
  const ranked = isPast && made.asksRanks ? rankOfDay(parts, shop) : null;
  const looks = occasions.some(({ occasion: { start } }) => asksLooked(start));
  const figures = noFigures();
  const dayOf = daysFrom(from, zone);
  for (let at = 0; at < ids.length; at += 200) {
    const bare = parts.people.bare(shop, ids.slice(at, at + 200));
    // What rules pick today stands for what they would have picked.
    const today = withAsked(parts, made, asKnown(shop, now), bare);
    const people = isPast ? peopleThen(parts, today, from) : today;
    for (const { id, data, ...then } of people) {
      const email = emailOf(data);
      const person = shoppers
        ? {
            ...{ data, events: shoppers({ id, email }) },
            before: {
              shopper: data.shopper,
              looked: looks ? lookedLately(parts.events, shop, email, now) : NOTHING_LOOKED,
            },
          }
        : {
            ...{ data, events: parts.events.of(shop, email), ...then },
            ...(ranked && { rankThen: (then: number) => ranked(id, then) }),
          };
      countIn(figures, id, replayPerson(person, options), dayOf);
    }
  }
  return figures;
}

/** One person through one occasion, each condition with its values. */
export function walkPerson(parts: ReplayParts, task: WalkTask): WalkLine[] | null {
  const { shop, id, occasion, person, days, now } = task;
  const [from, until] = [now - days * DAY, now];
  const changes = changesSince(parts, shop, from);
  const formulas = formulasOf(occasion);
  const made = shopMoments(parts, shop, new Date(now), { formulas, changes, isPast: true });
  const found = parts.shops.find(shop);
  if (!made || !found) return null;
  const bare = parts.people.data(shop, [person]);
  const [one] = peopleThen(parts, withAsked(parts, made, asKnown(shop, now), bare), from);
  if (!one) return null;
  const ranked = made.asksRanks ? rankOfDay(parts, shop) : null;
  const drafts = [{ id, occasion }];
  const { timezone: zone } = found;
  const dated = datedOf(parts, { shop, drafts, from, until, zone, changes });
  const lines: WalkLine[] = [];
  const names = { template: (template: string) => nameOf(parts, template) };
  replayPerson(
    {
      ...{ data: one.data, events: parts.events.of(shop, emailOf(one.data)) },
      fieldsThen: one.fieldsThen,
      ...(ranked && { rankThen: (then: number) => ranked(person, then) }),
    },
    {
      ...{ world: worldOfDrafts(drafts, from), moments: made.moments, dated, from, until },
      look: (effects, of) => {
        for (const effect of effects) {
          const told = toldEffect(effect, occasion, (formula, beside) =>
            made.moments.explain(of, formula, beside),
          );
          lines.push(sayLine(told, occasion, names));
        }
      },
    },
  );
  return lines;
}

export function nameOf(parts: Pick<ReplayParts, 'templates'>, id: string): string {
  const template = parts.templates.find(id)?.template as Template | undefined;
  return template?.name ?? 'A template that was deleted';
}
