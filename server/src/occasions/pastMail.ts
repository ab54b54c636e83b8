import { dataRead, catalogNeeds } from '@carafe/core/check';
import type { Fields } from '@carafe/core/formula';
import { shopperAbout, withConsent, type About } from '@carafe/core/occasion';
import { build } from '@carafe/core/build';
import {
  assembleRecord,
  feedsThen,
  foldEvents,
  NEW_SHOPPER,
  productsThen,
  reviveRecord,
  type PersonData,
  type Products,
  type Shopper,
  type SharedData,
} from '@carafe/core/record';
import { prepare } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import type { Job } from '../jobs/jobs';
import { expandedOf } from '../library/shopLibrary';
import { picksThen } from '../recommend/picks';
import { productsBySku } from '../shops/productsBySku';
import { sharedDataOf } from '../shops/sharedData';
import { fieldsAt, rankAt } from './pastPeople';
import { changesSince, emailOf, shoppersIn, type Rehearsal, type ReplayParts } from './replays';

export interface PastMailTask {
  shop: string;
  template: string;
  person: number;
  at: number;
  /** The order, the product … that it is about. */
  about: About;
  /** What the occasion added to the record then, dates as ISO 8601. */
  past: Fields;
  /** Where it is a mail of a rehearsal, which is to come; null for one of the past. */
  rehearsal: Rehearsal | null;
}
export interface PastMailJobs {
  pastMail: Job<PastMailTask, { subject: string; html: string; text: string } | null>;
}

/** Catalogs with their products as they were. */
const catalogThen = (catalog: SharedData['catalog'], products: Products): SharedData['catalog'] =>
  Object.fromEntries(
    Object.entries(catalog).map(([name, list]) => [
      name,
      list.map((product) => products.get(String(product['sku'])) ?? product),
    ]),
  );

/** Whether a template asks for ranks; those of everybody are reckoned for one. */
const readsRank = (template: Template): boolean => /\brank\b/.test(JSON.stringify(template));

/** The cart and the orders of somebody at an instant: of the past, or after what a rehearsal made up. */
function shopperThen(
  parts: ReplayParts,
  { id, data }: { id: number; data: PersonData },
  { shop, at, rehearsal }: PastMailTask,
): Shopper {
  const email = emailOf(data);
  const found = rehearsal && parts.shops.find(shop);
  if (rehearsal && found) {
    const coming = shoppersIn(parts, found, rehearsal)({ id, email });
    return foldEvents(
      coming.filter((event) => Date.parse(event.at) <= at),
      data.shopper,
    );
  }
  const events = parts.events.of(shop, email);
  // Of whom no event tells, files do; they are known as they are.
  if (events.length === 0) return data.shopper;
  return foldEvents(
    events.filter((event) => Date.parse(event.at) <= at),
    NEW_SHOPPER,
  );
}

/**
 * A mail as it would have been at an instant: from what the person had done and was known for until then, their rank, what
 * rules would have picked, and what is published today.
 */
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
  const folded = shopperThen(parts, one, task);
  const shopper = shopperAbout(folded, about);
  const { rank: _, ...others } = one.data;
  const rank = readsRank(template) ? rankAt(parts, shop)(person, at) : undefined;
  const fields = fieldsAt(parts, one, at);
  const then: PersonData = {
    ...{ ...others, shopper, person: withConsent(fields, folded) },
    ...(rank !== undefined && { rank }),
  };
  const picks = dataRead(sites).includes('picks')
    ? picksThen(parts, { shop, data: then, at, products })
    : null;
  const data = picks ? { ...then, picks } : then;
  const { program } = await build(template);
  const product = about.sku === undefined ? undefined : products.get(about.sku);
  const occasion = reviveRecord(past) as Fields;
  const beside = { event: { ...about }, occasion, ...(product && { product }) };
  const record = { ...assembleRecord(data, shared, products), ...beside };
  const { mail } = prepare(program)(record, { asOf: new Date(at) });
  return { subject: mail.subject, html: mail.html, text: mail.text };
}
