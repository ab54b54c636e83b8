import { isCurrency, isLocale, isTimeZone } from '@carafe/core/formula';
import type { PersonData, ShopEvent } from '@carafe/core/record';
import type { ShopLibrary } from '@carafe/core/library';
import type { Shape } from '@carafe/core/shape';
import { z } from 'zod';
import { carried, endpoint, OfVersion } from './endpoint';

/** A shop that mails speak for. */
export const Shop = z.strictObject({
  id: z
    .string()
    .min(1, 'A shop needs an id.')
    .max(100, 'An id has at most 100 letters.')
    .regex(/^[a-z0-9][a-z0-9-]*$/, 'An id is lower-case letters, digits and dashes.'),
  name: z
    .string()
    .trim()
    .min(1, 'A shop needs a name.')
    .max(200, 'A name has at most 200 letters.'),
  url: z
    .url({ protocol: /^https?$/, error: 'A web address begins with https:// or http://.' })
    .max(2000),
  address: z.string().max(500),
  logo: z.string().max(2000),
  /** The address at which recipients find Carafe's `/pictures`. */
  pictures: z
    .url({ protocol: /^https?$/, error: 'An address begins with https:// or http://.' })
    .max(2000)
    // Cleared, it is where this server answers.
    .or(z.literal(''))
    .optional(),
  currency: z
    .string()
    .refine(isCurrency, 'There is no such currency. It is three capital letters, such as EUR.'),
  timezone: z
    .string()
    .refine(isTimeZone, 'There is no such time zone. It is a name such as Europe/Berlin.'),
  locale: z
    .string()
    .refine(isLocale, 'There is no such language. It is a tag such as de-DE or en-GB.'),
});
export type Shop = z.infer<typeof Shop>;

const StoredShop = Shop.extend({ version: z.string() });
export type StoredShop = z.infer<typeof StoredShop>;

/** A recipient as the who-bar lists them. */
export const Recipient = z.object({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  lines: z.number(),
  orders: z.number(),
  /** Whether they agreed to newsletters, their rank among those who ordered, and whether they are without an account. */
  consent: z.boolean().optional(),
  rank: z.number().optional(),
  guest: z.literal(true).optional(),
  /** A test recipient: made up by hand, or for a branch that nobody reaches. */
  made_up: z.literal(true).optional(),
});
export type Recipient = z.infer<typeof Recipient>;

export const RecipientList = z.object({ total: z.number(), recipients: z.array(Recipient) });
export type RecipientList = z.infer<typeof RecipientList>;

/** Which recipients: everyone, or those who have what a template reads. */
export const Having = z.enum(['all', 'cart', 'order']);
export type Having = z.infer<typeof Having>;

/** Which recipients among them: by what is known of them. */
export const RecipientFilter = z.object({
  /** A language with its country or without: `de`, `de-AT`. */
  language: z.string().max(40).optional(),
  country: z.string().max(100).optional(),
  /** People without a name. */
  name: z.enum(['none']).optional(),
  /** At least so many lines in the cart. */
  lines: z.coerce.number().int().min(1).max(1000).optional(),
  orders: z.enum(['some', 'none']).optional(),
  consent: z.enum(['yes', 'no']).optional(),
});
export type RecipientFilter = z.infer<typeof RecipientFilter>;

/** A value that recipients have, and how many of them. */
const Facet = z.object({ value: z.string(), people: z.number() });
export const RecipientFacets = z.object({ languages: z.array(Facet), countries: z.array(Facet) });
export type RecipientFacets = z.infer<typeof RecipientFacets>;

/** Where the demo's pictures are said to be; the server serves them at /pictures. */
export const STAND_IN_PICTURES = 'https://pictures.quillmoss.example/';

/** For how many recipients a condition holds, and one of each kind to look at. */
export const Audience = z.object({
  of: z.number(),
  holds: z.number(),
  /** For how many of them it takes too long to work out; left out where there are none. */
  unknown: z.number().optional(),
  yes: Recipient.nullable(),
  no: Recipient.nullable(),
});
export type Audience = z.infer<typeof Audience>;

const Ids = z
  .string()
  .regex(/^-?\d+(?:,-?\d+){0,199}$/, 'Ids are up to 200 numbers with commas between.');

/** A loop over a catalog whose members are the same for everybody. */
export const CatalogLoop = z.strictObject({
  list: z.string().max(4000),
  as: z.string().max(40),
  where: z.string().max(4000).optional(),
  sort: z
    .strictObject({ by: z.string().max(4000), direction: z.enum(['ascending', 'descending']) })
    .optional(),
  at_most: z.number().int().min(1).max(1000).optional(),
});
/** What of a catalog a template can show: all of it, or what some loops show. */
export const CatalogNeed = z.strictObject({
  name: z.string().max(100),
  loops: z.array(CatalogLoop).max(200).nullable(),
});
export type CatalogNeed = z.infer<typeof CatalogNeed>;

/** How long a list is on the server where less of it was sent. */
export const ListLengths = z.record(z.string(), z.number());

export const PeopleData = z.object({
  people: z.array(
    z.object({
      id: z.number(),
      data: carried<PersonData>('A person as stored, with their carts and orders'),
    }),
  ),
  /** The products in their carts and latest orders. */
  products: z.array(z.unknown()),
});
export type PeopleData = z.infer<typeof PeopleData>;

/** Where somebody stands among all who ordered: each figure as a fifth, 1 (least) to 5 (best). */
export const RankStanding = z.object({
  /** The mean of the three, as it was worked out last. */
  rank: z.number().nullable(),
  recency: z.number(),
  frequency: z.number(),
  spend: z.number(),
  last_order_at: z.string().nullable(),
  orders: z.number(),
  spent: z.number(),
  /** So many have a rank. */
  buyers: z.number(),
});
export type RankStanding = z.infer<typeof RankStanding>;

export const shopEndpoints = {
  listShops: endpoint({
    method: 'GET',
    path: '/shops',
    summary: 'All shops',
    answer: z.object({ shops: z.array(StoredShop) }),
  }),
  createShop: endpoint({
    method: 'POST',
    path: '/shops',
    summary: 'A new shop',
    body: Shop,
    answer: StoredShop,
    status: 201,
  }),
  changeShop: endpoint({
    method: 'PUT',
    path: '/shops/:shop',
    summary: 'Change a shop; its id stays',
    query: OfVersion,
    body: Shop,
    answer: StoredShop,
  }),
  sharedData: endpoint({
    method: 'POST',
    path: '/shops/:shop/shared',
    summary:
      'What every recipient of a shop shares: shop, feeds, coupons, and of catalogs what is needed',
    body: z.strictObject({
      catalogs: z.array(CatalogNeed).max(100).nullable(),
      /** When mails are filled: a code that has ended by then is not there. Now, where it is left out. */
      as_of: z.iso.datetime({ offset: true }).optional(),
    }),
    answer: z.object({
      shared: carried<unknown>('shop, catalog, feeds, coupon; dates as ISO text'),
      lengths: ListLengths,
      library: carried<ShopLibrary>('Named formulas and product notes of the shop'),
    }),
  }),
  shape: endpoint({
    method: 'GET',
    path: '/shops/:shop/shape',
    summary: 'The shape of the records of a shop, with fill rates',
    answer: carried<Shape>('A shape: kinds and fields, how often each is filled, samples'),
  }),
  listRecipients: endpoint({
    method: 'GET',
    path: '/shops/:shop/recipients',
    summary: 'Recipients by words and by what they have',
    query: RecipientFilter.extend({
      q: z.string().max(200).default(''),
      having: Having.default('all'),
      limit: z.coerce.number().int().min(1).max(500).default(100),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    answer: RecipientList,
  }),
  audience: endpoint({
    method: 'POST',
    path: '/shops/:shop/audience',
    summary: 'For how many recipients a condition holds',
    body: z.strictObject({ formula: z.string().min(1).max(4000) }),
    answer: Audience,
  }),
  recipientFacets: endpoint({
    method: 'GET',
    path: '/shops/:shop/recipients/facets',
    summary: 'The languages and countries of recipients, the most frequent first',
    answer: RecipientFacets,
  }),
  someRecipients: endpoint({
    method: 'GET',
    path: '/shops/:shop/recipients/some',
    summary: 'Recipients by their ids',
    query: z.object({ ids: Ids }),
    answer: z.object({ recipients: z.array(Recipient) }),
  }),
  somePeople: endpoint({
    method: 'GET',
    path: '/shops/:shop/people',
    summary: 'All that is stored of some people, by their ids',
    /** Who needs no picks has the people at once: the first picks of a shop take a while. */
    query: z.object({ ids: Ids, picks: z.enum(['all', 'none']).default('all') }),
    answer: PeopleData,
  }),
  erasePerson: endpoint({
    method: 'POST',
    path: '/shops/:shop/people/erase',
    summary:
      'Erase a person: their fields, events, carts, orders and the contents of their emails; says what was deleted and what is kept',
    body: z.strictObject({ email: z.string().trim().min(3).max(320) }),
    answer: z.object({ deleted: z.array(z.string()), kept: z.array(z.string()) }),
  }),
  personRank: endpoint({
    method: 'GET',
    path: '/shops/:shop/person/rank',
    summary: 'What the rank of a person is made of; null for who never ordered',
    query: z.object({ email: z.string().max(320) }),
    answer: z.object({ standing: RankStanding.nullable() }),
  }),
  getPerson: endpoint({
    method: 'GET',
    path: '/shops/:shop/person',
    summary: 'All that a template would see of one person, with the events that made it',
    query: z.object({ email: z.string().max(320) }),
    answer: z.object({
      id: z.number(),
      record: z.record(z.string(), z.unknown()),
      events: z.array(carried<ShopEvent>('An event; see /schema/events')),
    }),
  }),
};
