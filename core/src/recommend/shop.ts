import type { Fields } from '../formula';
import { textOf, type Product, type Shop } from './define';
import type { History } from './history';
import { TasteIndex, type Taste } from './taste';

interface Beside {
  taste?: Taste | null;
  restocked?: ReadonlyMap<string, number>;
  segments?: ReadonlyMap<string, ReadonlySet<string>>;
  record?: Fields;
}

/** A shop made ready for picks. Of two products of one SKU, the first stands. */
export function shopOf(
  history: History,
  catalog: readonly Fields[],
  { taste = null, restocked = new Map(), segments = new Map(), record: own = {} }: Beside = {},
): Shop {
  const bySku = new Map<string, Product>();
  catalog.forEach((record, place) => {
    const sku = textOf(record, 'sku');
    if (sku !== '' && !bySku.has(sku))
      bySku.set(sku, { sku, record, place, number: history.products.find(sku) });
  });
  return {
    ...{ history, own: history },
    record: own,
    products: [...bySku.values()],
    bySku,
    byNumber: history.products.all.map((sku) => bySku.get(sku)),
    taste: taste && new TasteIndex(taste),
    restocked,
    segments,
    kept: new Map(),
  };
}

/** The same shop after something happened in it: what was reckoned before is reckoned anew when it is asked for. */
export function withHistory(shop: Shop, history: History): Shop {
  const records = shop.products.map(({ record }) => record);
  const after = shopOf(history, records, {
    ...{ restocked: shop.restocked, segments: shop.segments, record: shop.record },
  });
  return { ...after, taste: shop.taste };
}
