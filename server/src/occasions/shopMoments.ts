import { byName } from '@carafe/core/library';
import { momentsOf, type Moments, type Segment, type ShopRules } from '@carafe/core/occasion';
import {
  asksPast,
  feedsThen,
  productsThen,
  type PastAsked,
  type PersonData,
  type ProductChange,
} from '@carafe/core/record';
import type { LibraryRepository } from '../library/repository';
import { picksOfMany } from '../recommend/picks';
import type { ReadyTask } from '../recommend/ready';
import { withPast, type PastParts } from '../people/withPast';
import { productsBySku } from '../shops/productsBySku';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { SegmentsRepository, ShopRulesRepository } from './segmentsRepository';

export type MomentParts = SharedParts & {
  library: Pick<LibraryRepository, 'list'>;
  segments: Pick<SegmentsRepository, 'list'>;
  shopRules: Pick<ShopRulesRepository, 'get'>;
};

export interface ShopMoments {
  moments: Moments;
  /** Whether something asks what rules pick. */
  asksPicks: boolean;
  /** What is asked of people’s past. */
  asksPast: PastAsked;
  /** Whether something asks for ranks. */
  asksRanks: boolean;
}

/**
 * What occasions of a shop ask of its people. Catalogs are read whole only where `formulas` name one. Products are as
 * they are now, or, with the `changes` of the past, as they were; of the past posts that came out later are not there. Null
 * where there is no such shop.
 */
export function shopMoments(
  parts: MomentParts,
  shop: string,
  now: Date,
  {
    formulas,
    rules = parts.shopRules.get(shop),
    segments = parts.segments.list(shop),
    changes = [],
    isPast = false,
  }: {
    formulas: readonly string[];
    rules?: ShopRules;
    segments?: readonly Segment[];
    changes?: readonly ProductChange[];
    /** Instants before now are asked. */
    isPast?: boolean;
  },
): ShopMoments | null {
  const named = byName(parts.library.list(shop, 'formula').map(({ document }) => document));
  const asked = [...formulas, ...segments.map(({ formula }) => formula), ...named.values()];
  const isWhole = asked.some((formula) => /\bcatalog\b/.test(formula));
  const shared = sharedDataOf(parts, shop, now, isWhole ? null : []);
  if (!shared) return null;
  const products = productsThen(productsBySku(parts, shop, shared), changes);
  return {
    asksPicks: asked.some((formula) => /\bpicks\b/.test(formula)),
    asksPast: asksPast(asked),
    asksRanks: asked.some((formula) => /\brank\b/.test(formula)),
    moments: momentsOf({
      ...{ shared, products, rules, segments, named },
      ...(isPast && { feeds: feedsThen(shared.feeds) }),
    }),
  };
}

/** Some people with what the rules of their shop pick for them, and with their past, where an occasion asks for it. */
export function withAsked<T extends { id: number; data: PersonData }>(
  parts: Parameters<typeof picksOfMany>[0] & PastParts,
  { asksPicks, asksPast: past }: ShopMoments,
  ready: ReadyTask,
  given: readonly T[],
): readonly T[] {
  const people =
    past.views || past.emails
      ? given.map((one) => ({ ...one, data: withPast(parts, ready.shop, past, one.data) }))
      : given;
  if (!asksPicks || people.length === 0) return people;
  const picked = picksOfMany(parts, { ...ready, ids: people.map(({ id }) => id) });
  return people.map((one) => {
    const picks = picked[one.id];
    return picks ? { ...one, data: { ...one.data, picks } } : one;
  });
}

/** What is asked of rules where nobody told what changed: whatever is known. */
export const asKnown = (shop: string, now: number): ReadyTask => ({
  ...{ shop, now: new Date(now).toISOString(), turn: null, changes: [] },
});
