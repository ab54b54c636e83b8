import type { WalkLine } from '@carafe/contract';
import { dataRead, catalogNeeds } from '@carafe/core/check';
import { wallIn, type Fields } from '@carafe/core/formula';
import {
  countIn,
  daysFrom,
  countPerson,
  noFigures,
  noRates,
  planOf,
  replayPerson,
  shoppersOf,
  shopperAbout,
  toldEffect,
  type About,
  type Occasion,
  type OccasionFigures,
  type Rates,
  type World,
} from '@carafe/core/occasion';
import { build } from '@carafe/core/build';
import {
  assembleRecord,
  feedsThen,
  foldEvents,
  NEW_SHOPPER,
  productsThen,
  reviveRecord,
  type PersonData,
  type ProductChange,
  type Products,
  type SharedData,
} from '@carafe/core/record';
import { prepare } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import type { EventsRepository } from '../events/repository';
import type { Job } from '../jobs/jobs';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany } from '../recommend/picks';
import { productsBySku } from '../shops/productsBySku';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';
import { datedOf } from './dated';
import { asksLooked, lookedLately } from './looked';
import { formulasOf } from './plans';
import { sayLine } from './lines';
import { asKnown, shopMoments, withPicks, type MomentParts } from './shopMoments';

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
export interface PastMailTask {
  shop: string;
  template: string;
  person: number;
  at: number;
  /** The order, the product … that it is about. */
  about: About;
  /** What the occasion added to the record then, dates as ISO 8601. */
  past: Fields;
}
export interface ReplayJobs {
  replay: Job<ReplayTask, OccasionFigures | null>;
  walk: Job<WalkTask, WalkLine[] | null>;
  pastMail: Job<PastMailTask, { subject: string; html: string; text: string } | null>;
}
export type ReplayParts = MomentParts &
  SharedParts &
  LibraryParts &
  Parameters<typeof picksOfMany>[0] & {
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

const emailOf = ({ person }: PersonData): string =>
  String((person as { email?: unknown }).email ?? '').toLowerCase();

const worldOfDrafts = (drafts: readonly Draft[], since: number): World => {
  const plans = drafts.map(({ id, occasion }) => planOf(id, 1, occasion, since));
  return { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };
};

/** What imports have changed of the products of a shop since an instant. */
const changesSince = (parts: ReplayParts, shop: string, from: number): ProductChange[] =>
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
  const since = now - RATES_DAYS * DAY;
  const rates = noRates(RATES_DAYS * DAY);
  const iso = new Date(since).toISOString();
  for (const data of parts.people.spread(shop, MOST_COUNTED))
    countPerson(
      rates,
      parts.events.of(shop, emailOf(data)).filter(({ at }) => at >= iso),
      ahead,
    );
  known.clear();
  known.set(key, rates);
  return rates;
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
  const ahead = wallIn(new Date(now), zone) - now;
  const dated = datedOf(parts, { shop, drafts: occasions, from, until, zone, changes });
  const world = worldOfDrafts(occasions, from);
  const options = { world, moments: made.moments, dated, from, until };
  const shoppers = isPast
    ? null
    : shoppersOf({
        ...{ rates: ratesOf(parts, shop, now, ahead), seed: task.seed, from, until, shop },
        ...{ currency: found.currency, ahead },
      });
  const looks = occasions.some(({ occasion: { start } }) => asksLooked(start));
  const figures = noFigures();
  const dayOf = daysFrom(from, zone);
  for (let at = 0; at < ids.length; at += 200) {
    const bare = parts.people.bare(shop, ids.slice(at, at + 200));
    // What rules pick today stands for what they would have picked.
    const people = withPicks(parts, made, asKnown(shop, now), bare);
    for (const { id, data } of people) {
      const email = emailOf(data);
      const person = shoppers
        ? {
            ...{ data, events: shoppers({ id, email }) },
            before: {
              shopper: data.shopper,
              looked: looks ? lookedLately(parts.events, shop, email, now) : NOTHING_LOOKED,
            },
          }
        : { data, events: parts.events.of(shop, email) };
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
  const [one] = withPicks(parts, made, asKnown(shop, now), bare);
  if (!one) return null;
  const drafts = [{ id, occasion }];
  const { timezone: zone } = found;
  const dated = datedOf(parts, { shop, drafts, from, until, zone, changes });
  const lines: WalkLine[] = [];
  const names = { template: (template: string) => nameOf(parts, template) };
  replayPerson(
    { data: one.data, events: parts.events.of(shop, emailOf(one.data)) },
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

/** Catalogs with their products as they were. */
const catalogThen = (catalog: SharedData['catalog'], products: Products): SharedData['catalog'] =>
  Object.fromEntries(
    Object.entries(catalog).map(([name, list]) => [
      name,
      list.map((product) => products.get(String(product['sku'])) ?? product),
    ]),
  );

/** A mail as it would have been at an instant: from what the person had done until then, and what is published. */
export async function pastMail(parts: ReplayParts, task: PastMailTask) {
  const { shop, template: id, person, at, about, past } = task;
  const number = parts.published.last(id);
  const stored =
    parts.published.document(id, number) ??
    (parts.templates.find(id)?.template as Template | undefined);
  const [one] = parts.people.data(shop, [person]);
  if (!stored || !one || stored.shop !== shop) return null;
  const template = expandedOf(parts, stored);
  const sites = templateSites(template);
  const now = sharedDataOf(parts, shop, new Date(at), catalogNeeds(sites));
  if (!now) return null;
  const products = productsThen(productsBySku(parts, shop, now), changesSince(parts, shop, at))(at);
  const feeds = feedsThen(now.feeds)(at);
  const shared = { ...now, feeds, catalog: catalogThen(now.catalog, products) };
  const events = parts.events.of(shop, emailOf(one.data)).filter((e) => Date.parse(e.at) <= at);
  const folded = events.length > 0 ? foldEvents(events, NEW_SHOPPER) : one.data.shopper;
  const shopper = shopperAbout(folded, about);
  const asked = { ...asKnown(shop, at), ids: [person] };
  const picks = dataRead(sites).includes('picks') ? picksOfMany(parts, asked)[person] : undefined;
  const data: PersonData = { ...one.data, shopper, ...(picks && { picks }) };
  const { program } = await build(template);
  const product = about.sku === undefined ? undefined : products.get(about.sku);
  const occasion = reviveRecord(past) as Fields;
  const beside = { event: { ...about }, occasion, ...(product && { product }) };
  const record = { ...assembleRecord(data, shared, products), ...beside };
  const { mail } = prepare(program)(record, { asOf: new Date(at) });
  return { subject: mail.subject, html: mail.html, text: mail.text };
}
