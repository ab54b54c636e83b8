import { inferShape, type Field, type Shape } from '../shape';
import { toDate } from '../formula';

const at = toDate('2026-01-01T00:00:00Z');
const product = {
  ...{ sku: 'a', name: 'a', description: 'a', url: 'a', image: 'a', price: 1, was_price: 1 },
  ...{ currency: 'a', category: 'a', categories: ['a'], brand: 'a', tags: ['a'], stock: 1 },
  ...{ in_stock: true, added_at: at },
};
const line = {
  ...{ sku: 'a', name: 'a', variant: 'a', image: 'a', url: 'a', price: 1, quantity: 1, total: 1 },
  ...{ category: 'a', in_stock: true, properties: [{ name: 'a', value: 'a' }], product },
};
const post = {
  ...{ title: 'a', link: 'a', author: 'a', published_at: at, summary: 'a', content: 'a' },
  ...{ image: 'a', categories: ['a'] },
};

const order = {
  ...{ number: 'a', placed_at: at, status: 'a', status_at: at, currency: 'a', lines: [line] },
  ...{ subtotal: 1, refunded: 1 },
  ...{ discount: 1, shipping: 1, tax: 1, total: 1, note: 'a' },
  ship_to: { name: 'a', street: 'a', postcode: 'a', city: 'a', country: 'a' },
  ...{ pay_url: 'a', view_url: 'a' },
};

/** One recipient who has everything that a shop can have. */
const EVERYTHING = {
  person: {
    ...{ email: 'a', first_name: 'a', last_name: 'a', locale: 'a', timezone: 'a', country: 'a' },
    ...{ city: 'a', consent: true, joined: at, tags: ['a'], guest: true, orders_count: 1 },
    ...{ orders_total: 1, first_order_at: at, last_order_at: at, last_seen_at: at, rank: 1 },
  },
  cart: {
    ...{ id: 'a', started_at: at, updated_at: at, currency: 'a', lines: [line], count: 1 },
    ...{ quantity: 1, subtotal: 1, discount: 1, total: 1, recover_url: 'a' },
  },
  order,
  orders: [order],
  shop: {
    ...{ name: 'a', url: 'a', address: 'a', logo: 'a', pictures: 'a', currency: 'a' },
    ...{ timezone: 'a', locale: 'a' },
  },
  // What an occasion adds for its own mails: its past with the person, and what it is about.
  occasion: {
    ...{ entered_at: at, last_mail_at: at, ordered_since: true, cart_changed: true },
    ...{ opened: true, clicked: true },
    ...{ mails: 1, mails_ever: 1 },
  },
  event: { order: 'a', cart: 'a', sku: 'a', feed: 'a', post: 'a' },
  links: { unsubscribe: 'a', preferences: 'a', view_in_browser: 'a' },
  ...{ today: at, now: at },
};

/** What conditions over people can ask besides: see `past`. */
const PAST = inferShape([
  {
    views: [{ sku: 'a', name: 'a', category: 'a', price: 1, viewed_at: at, product }],
    emails: [
      {
        ...{ occasion: 'a', subject: 'a', marketing: true, sent_at: at },
        ...{ opened: true, opened_at: at, clicked: true, clicked_at: at },
      },
    ],
  },
]);

const coupon = { code: 'a', value_text: 'a', percent: 1, amount: 1, expires_at: at };

const STANDARD = inferShape([EVERYTHING]);
const PRODUCT = inferShape([product]);
const POST = inferShape([post]);
const COUPON = inferShape([coupon]);

/** A shape of which nothing was seen yet. */
function unseen(shape: Shape): Shape {
  if (shape.kind === 'list') return { kind: 'list', of: unseen(shape.of) };
  if (shape.kind !== 'record') return shape;
  const fields = Object.entries(shape.fields).map(([name, { shape: inside }]) => [
    name,
    { shape: unseen(inside), filled: 0, of: 0, samples: [] },
  ]);
  return { kind: 'record', fields: Object.fromEntries(fields) as Record<string, Field> };
}

/** A shape with the fields that the standard knows and nobody has; `of` records were looked at. */
function joined(found: Shape, standard: Shape, of: number): Shape {
  if (found.kind === 'list' && standard.kind === 'list') {
    const members = found.of.kind === 'record' ? found.of : unseen(standard.of);
    return { kind: 'list', of: joined(members, standard.of, seenOf(members)) };
  }
  if (found.kind !== 'record' || standard.kind !== 'record') return found;
  const fields = { ...found.fields };
  for (const [name, { shape }] of Object.entries(standard.fields)) {
    const known = Object.hasOwn(fields, name) ? fields[name] : undefined;
    fields[name] = known
      ? { ...known, shape: joined(known.shape, shape, known.filled) }
      : { shape: unseen(shape), filled: 0, of, samples: [] };
  }
  return { kind: 'record', fields };
}

const seenOf = (shape: Shape): number =>
  shape.kind === 'record' ? Math.max(0, ...Object.values(shape.fields).map((f) => f.of)) : 0;

/** Every member of a record by one standard: the catalogs of a shop, the feeds, the coupons. */
function eachJoined(record: Field | undefined, standard: Shape): Field | undefined {
  if (record?.shape.kind !== 'record') return record;
  const fields = Object.entries(record.shape.fields).map(([name, field]) => [
    name,
    { ...field, shape: joined(field.shape, standard, field.filled) },
  ]);
  return {
    ...record,
    shape: { kind: 'record', fields: Object.fromEntries(fields) as Record<string, Field> },
  };
}

/**
 * The shape of a shop's records with all that records can have: what nobody has yet is known by name
 * and kind, and counts as blank for everybody who could have it.
 */
export function withStandard(found: Shape, people: number): Shape {
  const whole = joined(
    found.kind === 'record' ? found : { kind: 'record', fields: {} },
    STANDARD,
    people,
  );
  if (whole.kind !== 'record') return whole;
  const catalog = eachJoined(whole.fields['catalog'], { kind: 'list', of: PRODUCT });
  const coupons = eachJoined(whole.fields['coupon'], COUPON);
  const posts: Field = { shape: { kind: 'list', of: POST }, filled: 0, of: 0, samples: [] };
  const feeds = eachJoined(whole.fields['feeds'], { kind: 'record', fields: { posts } });
  return {
    kind: 'record',
    fields: {
      ...whole.fields,
      ...(catalog && { catalog }),
      ...(feeds && { feeds }),
      ...(coupons && { coupon: coupons }),
    },
  };
}

/** The shape of what conditions over people read: with what they looked at, and the emails that they received. */
export const withPast = (shape: Shape): Shape => joined(shape, PAST, 0);
