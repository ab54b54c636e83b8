import type { Fields } from '@carafe/core/formula';
import { byName } from '@carafe/core/library';
import { momentsOf, type Moments, type Segment, type ShopRules } from '@carafe/core/occasion';
import { productIndex, type PersonData, type SharedData } from '@carafe/core/record';
import type { LibraryRepository } from '../library/repository';
import { productsOf, sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { SegmentsRepository, ShopRulesRepository } from './segmentsRepository';

export type MomentParts = SharedParts & {
  library: Pick<LibraryRepository, 'list'>;
  segments: Pick<SegmentsRepository, 'list'>;
  shopRules: Pick<ShopRulesRepository, 'get'>;
};

export interface ShopMoments {
  shared: SharedData;
  /** Products by SKU, as far as they were asked for. */
  products: Map<string, Fields>;
  moments: Moments;
  /** Reads the products in the carts and orders of some people. */
  learn(people: readonly { data: PersonData }[]): void;
}

/**
 * What occasions of a shop ask of its people. Catalogs are read whole only where `formulas` name one; products of
 * carts and orders are read as people are learned. Null where there is no such shop.
 */
export function shopMoments(
  parts: MomentParts,
  shop: string,
  now: Date,
  {
    formulas,
    rules = parts.shopRules.get(shop),
    segments = parts.segments.list(shop),
  }: { formulas: readonly string[]; rules?: ShopRules; segments?: readonly Segment[] },
): ShopMoments | null {
  const named = byName(parts.library.list(shop, 'formula').map(({ document }) => document));
  const asked = [...formulas, ...segments.map(({ formula }) => formula), ...named.values()];
  const isWhole = asked.some((formula) => /\bcatalog\b/.test(formula));
  const shared = sharedDataOf(parts, shop, now, isWhole ? null : []);
  if (!shared) return null;
  const products = productIndex(shared);
  return {
    ...{ shared, products },
    moments: momentsOf({ shared, products, rules, segments, named }),
    learn(people) {
      const unknown = people.filter(({ data: { shopper } }) =>
        [...(shopper.cart?.lines ?? []), ...(shopper.orders.at(-1)?.lines ?? [])].some(
          ({ sku }) => !products.has(sku),
        ),
      );
      if (unknown.length === 0) return;
      for (const [sku, product] of productIndex(shared, productsOf(parts, shop, unknown)))
        if (!products.has(sku)) products.set(sku, product);
    },
  };
}
