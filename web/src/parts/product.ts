/** A product of a catalog, as it is listed. */
export interface Product {
  sku: string;
  name: string;
  /** With its currency, where that is known. */
  price: string;
  /** The address of its picture; empty where it has none. */
  image: string;
  isGone: boolean;
}

const text = (value: unknown) =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

function priceOf(price: unknown, currency: string): string {
  if (typeof price !== 'number') return '';
  if (!/^[A-Z]{3}$/.test(currency)) return price.toFixed(2);
  return new Intl.NumberFormat('en-GB', { style: 'currency', currency }).format(price);
}

/** What is listed of a row of a catalog; `currency` is that of prices without one of their own (ISO 4217). */
export function productOf(record: Record<string, unknown>, currency = ''): Product {
  return {
    sku: text(record['sku']),
    name: text(record['name']) || text(record['sku']),
    price: priceOf(record['price'], text(record['currency']) || currency),
    image: text(record['image']),
    isGone: record['in_stock'] === false,
  };
}
