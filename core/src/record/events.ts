import { z } from 'zod';

const text = (most: number) => z.string().max(most);

/** What was engraved, noted or chosen for a line. A list of answers becomes one text; blanks stay blank. */
const GivenProperty = z.object({
  name: text(200),
  value: z.union([text(2000), z.number(), z.boolean(), z.null(), z.array(text(500)).max(50)]),
});
type GivenProperty = z.infer<typeof GivenProperty>;

/** A property as it is kept with a line. */
export interface Property {
  name: string;
  value: string;
}

/** A property as events give it, as it is kept. */
export function keptProperty({ name, value }: GivenProperty): Property {
  if (Array.isArray(value)) return { name, value: value.filter((v) => v.trim() !== '').join(', ') };
  return { name, value: value === null ? '' : String(value) };
}

/** What an event may tell of the person beside their address. */
const About = z.object({
  first_name: text(200).optional(),
  last_name: text(200).optional(),
  locale: text(35).optional(),
  timezone: text(60).optional(),
  country: text(60).optional(),
  city: text(200).optional(),
});

const head = {
  /** Unique in its shop; an event that comes again with the same id changes nothing. */
  id: z.string().min(1).max(100),
  /** When it happened, ISO 8601 with its offset. */
  at: z.iso.datetime({ offset: true }),
  /** The shop that it happened in. */
  shop: z.string().min(1).max(100),
  /** The address of the person, where it is known. */
  email: z
    .string()
    .max(320)
    .regex(/^[^\s@]+@[^\s@]+$/, 'is not an email address')
    .optional(),
  /** What the shop knows a browser by, before and after there is an address. */
  visitor: z.string().min(1).max(100).optional(),
  person: About.optional(),
  /** Whatever else the shop wants to keep with it. */
  fields: z
    .record(z.string().max(100), z.union([text(2000), z.number(), z.boolean(), z.null()]))
    .refine((fields) => Object.keys(fields).length <= 50, 'has more than 50 fields')
    .optional(),
};
/** A currency is kept in upper case. */
const currency = z
  .string()
  .regex(/^[A-Za-z]{3}$/, 'is not a three-letter currency code')
  .transform((code) => code.toUpperCase());
const amount = z.number().min(0).max(1e9);
const quantity = z.number().int().min(1).max(10_000);
const properties = z.array(GivenProperty).max(50).optional();
const thing = {
  sku: z.string().min(1).max(200),
  name: text(500),
  variant: text(200).optional(),
  image: text(2000).optional(),
  url: text(2000).optional(),
  category: text(200).optional(),
  price: amount,
  quantity,
  properties,
};
/** Names a line of the cart: without properties, every line of the product and variant. */
const named = { sku: z.string().min(1).max(200), variant: text(200).optional(), properties };
const number = z.string().min(1).max(100);

/** Each kind of event by its name. */
export const EVENT_KINDS = {
  viewed: z.object({ ...head, kind: z.literal('viewed'), sku: z.string().min(1).max(200) }),
  cart_added: z.object({
    ...head,
    kind: z.literal('cart_added'),
    currency,
    ...thing,
  }),
  cart_changed: z.object({ ...head, kind: z.literal('cart_changed'), ...named, quantity }),
  cart_removed: z.object({ ...head, kind: z.literal('cart_removed'), ...named }),
  checkout_started: z.object({ ...head, kind: z.literal('checkout_started') }),
  order_placed: z.object({
    ...head,
    kind: z.literal('order_placed'),
    number,
    /** Left out or empty, the order takes the lines of the cart. */
    lines: z.array(z.object(thing)).max(500).optional(),
    currency: currency.optional(),
    status: text(100).optional(),
    shipping: amount.optional(),
    discount: amount.optional(),
    tax: amount.optional(),
    /** Whether prices hold the tax already, as they do unless this says no; else it is added. */
    tax_included: z.boolean().optional(),
    note: text(2000).optional(),
    ship_to: z.record(z.string().max(100), z.string().max(500)).optional(),
  }),
  order_status_changed: z.object({
    ...head,
    kind: z.literal('order_status_changed'),
    number,
    status: z.string().min(1).max(100),
  }),
  order_cancelled: z.object({ ...head, kind: z.literal('order_cancelled'), number }),
  /** What an order is now: whatever is left out stays as it was. */
  order_changed: z.object({
    ...{ ...head, kind: z.literal('order_changed'), number },
    lines: z.array(z.object(thing)).min(1).max(500).optional(),
    ...{ shipping: amount.optional(), discount: amount.optional(), tax: amount.optional() },
    tax_included: z.boolean().optional(),
    note: text(2000).optional(),
    ship_to: z.record(z.string().max(100), z.string().max(500)).optional(),
  }),
  /** Money that was given back, in the currency of the order. */
  order_refunded: z.object({
    ...{ ...head, kind: z.literal('order_refunded'), number, amount: amount.min(0.01) },
  }),
  consent_changed: z.object({
    ...head,
    kind: z.literal('consent_changed'),
    consent: z.boolean(),
    /** How it was given or taken back: "form at the till", "unsubscribe link". */
    how: text(500).optional(),
  }),
} as const;
export type EventKind = keyof typeof EVENT_KINDS;
export const EVENT_KIND_NAMES = Object.keys(EVENT_KINDS) as EventKind[];

/** One thing that happened in a shop. Carts and orders are made of these. */
export const ShopEvent = z
  .discriminatedUnion('kind', [
    EVENT_KINDS.viewed,
    EVENT_KINDS.cart_added,
    EVENT_KINDS.cart_changed,
    EVENT_KINDS.cart_removed,
    EVENT_KINDS.checkout_started,
    EVENT_KINDS.order_placed,
    EVENT_KINDS.order_status_changed,
    EVENT_KINDS.order_cancelled,
    EVENT_KINDS.order_changed,
    EVENT_KINDS.order_refunded,
    EVENT_KINDS.consent_changed,
  ])
  .refine((event) => event.email !== undefined || event.visitor !== undefined, {
    message: 'has neither “email” nor “visitor”, so the person is not known',
  });
export type ShopEvent = z.infer<typeof ShopEvent>;

/** An event, or why it is none. */
export type EventRead =
  { ok: true; event: ShopEvent; dropped: readonly string[] } | { ok: false; message: string };

/** Names of what an event says that no event of its kind has; those belong into `fields`. */
function unknownIn(given: unknown, kind: EventKind): string[] {
  const known = EVENT_KINDS[kind].shape;
  return Object.keys(given as object).filter((name) => !Object.hasOwn(known, name));
}

/** An instant as `toISOString` writes it. */
const UTC = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z$/;

/** Reads an event; its time becomes UTC and its address lower case, so that both can be compared. */
export function readEvent(given: unknown): EventRead {
  const read = ShopEvent.safeParse(given);
  if (!read.success) {
    const [issue] = read.error.issues;
    const at = issue?.path.join('.');
    const kinds = EVENT_KIND_NAMES.join(', ');
    const why =
      issue?.code === 'invalid_union' ? `is not one of the kinds ${kinds}` : (issue?.message ?? '');
    return { ok: false, message: at ? `“${at}”: ${why}` : why };
  }
  // What was read is a copy already: it is changed, not copied once more for each of a million lines.
  const event: ShopEvent = read.data;
  if (!UTC.test(event.at)) event.at = new Date(event.at).toISOString();
  // Beyond these years times are written otherwise, and could not be compared as text.
  if (!/^\d{4}-/.test(event.at))
    return { ok: false, message: '“at”: is outside the years 0 to 9999' };
  if (event.email !== undefined) event.email = event.email.toLowerCase();
  // An empty list says no more than none.
  if (event.kind === 'order_placed' && event.lines?.length === 0) delete event.lines;
  return { ok: true, event, dropped: unknownIn(given, event.kind) };
}

/** The JSON Schema (2020-12) of one kind of event, for the shop's developer. */
export function eventJsonSchema(kind: EventKind): object {
  return {
    ...z.toJSONSchema(EVENT_KINDS[kind], { io: 'input' }),
    title: kind,
    anyOf: [{ required: ['email'] }, { required: ['visitor'] }],
  };
}
