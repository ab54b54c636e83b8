import type { ShopLibrary } from '@carafe/core/library';
import type { Fields } from '@carafe/core/formula';
import { narrowCatalog } from '@carafe/core/render';
import {
  instantOf,
  isOver,
  reviveRecord,
  type PersonData,
  type SharedData,
} from '@carafe/core/record';
import type { CatalogNeed, Shop } from '@carafe/contract';
import type { MailSettingsRepository } from '../mail/settingsRepository';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesRepository } from '../sources/repository';
import { libraryOf, type LibraryParts } from '../library/shopLibrary';
import type { ShopsRepository } from './repository';

/** Mails show the latest posts; the rest stay in the source. */
const MAX_POSTS = 200;

/** What putting shared data together reads. */
export interface SharedParts {
  shops: Pick<ShopsRepository, 'find'>;
  sources: Pick<SourcesRepository, 'feeding'>;
  entries: Pick<EntriesRepository, 'records' | 'asRead'>;
  library: LibraryParts['library'];
  mailSettings: Pick<MailSettingsRepository, 'get'>;
}

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

function couponsOf(parts: SharedParts, shop: string, now: Date): Record<string, Coupon> {
  const zone = parts.shops.find(shop)?.timezone;
  const policies: Record<string, Coupon> = {};
  for (const { id } of parts.sources.feeding('coupons', shop))
    for (const coupon of parsed<Coupon>(parts.entries.records(id))) {
      const { policy = 'coupon', code, percent, amount, expires_at } = coupon;
      if (Object.hasOwn(policies, policy) || isOver(expires_at, now, zone)) continue;
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

function feedsOf(parts: SharedParts, shop: string): Record<string, object> {
  return Object.fromEntries(
    parts.sources.feeding('feed', shop).map(({ id, formula_name, name, meta }) => {
      const posts = parsed<{ published_at?: string }>(parts.entries.records(id))
        .sort((a, b) => instantOf(b.published_at) - instantOf(a.published_at))
        .slice(0, MAX_POSTS);
      return [formula_name, { title: name, ...meta, posts }];
    }),
  );
}

/** Catalogs of up to so many products are sent whole: narrowing them would save nothing. */
const SMALL = 2_000;

/** Shared data as JSON text, with how long its lists are where less of them is there. */
export interface SharedText {
  text: string;
  /** By `catalog.<name>` for a list, and by list and filter for what a loop keeps of it. */
  lengths: Record<string, number>;
  /** What the shop keeps for its templates. */
  library: ShopLibrary;
}

/** How the lengths of a loop are found. */
export const loopKey = ({ list, where = '' }: { list: string; where?: string | undefined }) =>
  `${list} where ${where}`;

/**
 * What every recipient of a shop shares, as JSON text (dates as ISO text), with what is needed of its
 * catalogs; null asks for all. Products are stored as JSON and are put together as they stand.
 */
export function sharedText(
  parts: SharedParts,
  id: string,
  now: Date,
  needs: readonly CatalogNeed[] | null,
): SharedText | null {
  const shop = parts.shops.find(id);
  if (!shop) return null;
  const { home, pictures } = homeOf(parts, shop);
  const feeds = feedsOf(parts, id);
  const coupon = couponsOf(parts, id, now);
  const lengths: Record<string, number> = {};
  const catalogs = parts.sources.feeding('catalog', id).flatMap(({ id: source, formula_name }) => {
    const need = needs?.find(({ name }) => name === formula_name);
    if (needs && !need) return [];
    let records = [...parts.entries.records(source)];
    if (need?.loops && records.length > SMALL) {
      const products = records.map((record) => reviveRecord(JSON.parse(record)) as Fields);
      const all = reviveRecord({ shop, feeds, coupon }) as Fields;
      const { shown, kept } = narrowCatalog(need.loops, formula_name, products, all, now);
      need.loops.forEach((loop, i) => {
        lengths[loop.list] = records.length;
        lengths[loopKey(loop)] = kept[i] ?? 0;
      });
      records = shown.map((place) => records[place] ?? '');
    }
    return [`${JSON.stringify(formula_name)}:[${records.join(',')}]`];
  });
  const text =
    `{"shop":${JSON.stringify({ ...shop, pictures })},"home":${JSON.stringify(home)},"catalog":{${catalogs.join(',')}},` +
    `"feeds":${JSON.stringify(feeds)},"coupon":${JSON.stringify(coupon)}}`;
  return { text, lengths, library: libraryOf(parts, id) };
}

const AT_HOME = /^https?:\/\/(?:localhost|127(?:\.\d+){3}|\[::1\])(?::\d+)?\//;

/** Where recipients reach Carafe, and its pictures: at the public address of the settings, where there is one. */
function homeOf(
  parts: SharedParts,
  { pictures = '', url }: Shop,
): { home: string; pictures: string } {
  const open = parts.mailSettings.get().public_url?.replace(/\/+$/, '');
  if (open !== undefined)
    return { home: open, pictures: AT_HOME.test(pictures) ? `${open}/pictures` : pictures };
  const own = /^(.*)\/pictures\/?$/.exec(pictures)?.[1];
  return { home: own ?? url, pictures };
}

/** The same, as formulas read it. */
export function sharedDataOf(
  parts: SharedParts,
  id: string,
  now: Date,
  needs: readonly CatalogNeed[] | null,
): SharedData | null {
  const shared = sharedText(parts, id, now, needs);
  return shared && (reviveRecord(JSON.parse(shared.text)) as SharedData);
}

const NOTHING: ReadonlyMap<string, Fields> = new Map();

/**
 * The products in the carts and latest orders of some people: what their lines are joined with,
 * however large the catalogs are; without those that are known.
 */
export function productsOf(
  parts: SharedParts,
  shop: string,
  people: readonly { data: PersonData }[],
  known: ReadonlyMap<string, Fields> = NOTHING,
): Fields[] {
  const skus = new Set<string>();
  for (const { data } of people) {
    const { cart, orders } = data.shopper;
    for (const { sku } of cart?.lines ?? []) skus.add(sku);
    for (const { lines } of orders) for (const { sku } of lines) skus.add(sku);
    for (const picked of Object.values(data.picks ?? {}))
      for (const { sku } of picked) skus.add(sku);
  }
  const unknown = [...skus].filter((sku) => !known.has(sku));
  if (unknown.length === 0) return [];
  const catalogs = parts.sources.feeding('catalog', shop);
  return unknown.flatMap((sku) => {
    for (const { id } of catalogs) {
      const product = parts.entries.asRead(id, sku);
      if (product) return [product];
    }
    return [];
  });
}
