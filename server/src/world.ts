import type { Fields } from '@carafe/core/formula';
import { reviveRecord, type PersonData, type World } from '@carafe/core/record';
import type { Store } from './db';

/** Mails show the latest posts; the rest stay in the source. */
const MAX_POSTS = 200;

interface Coupon {
  policy?: string;
  code: string;
  percent?: number;
  amount?: number;
  value_text?: string;
  expires_at?: string;
}

const parsed = <T>(records: Iterable<string>): T[] =>
  [...records].map((record) => JSON.parse(record) as T);

function couponsOf(store: Store, shop: string, now: string): Record<string, Coupon> {
  const policies: Record<string, Coupon> = {};
  for (const { id } of store.sources.feeding('coupons', shop))
    for (const coupon of parsed<Coupon>(store.entries.records(id))) {
      const { policy = 'coupon', code, percent, amount, expires_at } = coupon;
      if (Object.hasOwn(policies, policy) || (expires_at !== undefined && expires_at < now))
        continue;
      const value_text = coupon.value_text ?? (percent === undefined ? '' : `${percent} %`);
      policies[policy] = {
        code,
        value_text,
        ...(percent !== undefined && { percent }),
        ...(amount !== undefined && { amount }),
        ...(expires_at !== undefined && { expires_at }),
      };
    }
  return policies;
}

function feedsOf(store: Store, shop: string): Record<string, object> {
  return Object.fromEntries(
    store.sources.feeding('feed', shop).map(({ id, slot, name, meta }) => {
      const posts = parsed<{ published_at?: string }>(store.entries.records(id))
        .sort((a, b) => (b.published_at ?? '').localeCompare(a.published_at ?? ''))
        .slice(0, MAX_POSTS);
      return [slot, { title: name, ...meta, posts }];
    }),
  );
}

/**
 * What every recipient of a shop shares, as JSON text (dates as ISO text), with the catalogs that are
 * asked for; null asks for all. Products are stored as JSON and are put together as they stand.
 */
export function worldText(
  store: Store,
  id: string,
  now: Date,
  wanted: readonly string[] | null,
): string | null {
  const shop = store.shops.find(id);
  if (!shop) return null;
  const catalogs = store.sources
    .feeding('catalog', id)
    .filter(({ slot }) => wanted === null || wanted.includes(slot))
    .map(({ id: source, slot }) => {
      const products = [...store.entries.records(source)].join(',');
      return `${JSON.stringify(slot)}:[${products}]`;
    });
  return (
    `{"shop":${JSON.stringify(shop)},"catalog":{${catalogs.join(',')}},` +
    `"feeds":${JSON.stringify(feedsOf(store, id))},` +
    `"coupon":${JSON.stringify(couponsOf(store, id, now.toISOString()))}}`
  );
}

/** The same, as formulas read it. */
export function worldOf(
  store: Store,
  id: string,
  now: Date,
  wanted: readonly string[] | null,
): World | null {
  const text = worldText(store, id, now, wanted);
  return text === null ? null : (reviveRecord(JSON.parse(text)) as World);
}

/**
 * The products in the carts and latest orders of some people: what their lines are joined with,
 * however large the catalogs are.
 */
export function productsOf(
  store: Store,
  shop: string,
  people: readonly { data: PersonData }[],
): Fields[] {
  const skus = new Set<string>();
  for (const { data } of people) {
    const { cart, orders } = data.shopper;
    for (const { sku } of cart?.lines ?? []) skus.add(sku);
    for (const { sku } of orders.at(-1)?.lines ?? []) skus.add(sku);
  }
  const catalogs = store.sources.feeding('catalog', shop);
  return [...skus].flatMap((sku) => {
    for (const { id } of catalogs) {
      const product = store.entries.find(id, sku);
      if (product) return [reviveRecord(product) as Fields];
    }
    return [];
  });
}
