/** A product of a catalog, as it is listed. */
export interface Product {
  sku: string;
  name: string;
  price: string;
  isGone: boolean;
}

const text = (value: unknown) =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

/** What is listed of a row of a catalog. */
export function productOf(record: Record<string, unknown>): Product {
  return {
    sku: text(record['sku']),
    name: text(record['name']) || text(record['sku']),
    price: typeof record['price'] === 'number' ? record['price'].toFixed(2) : '',
    isGone: record['in_stock'] === false,
  };
}
