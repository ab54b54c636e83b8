import type { Fields } from '../formula';
import { assembleRecord, productIndex, type PersonData, type SharedData } from '../record';

/** Thursday morning of a small shop. */
export const now = new Date('2026-11-26T10:00:00Z');
export const products: Fields[] = [
  {
    sku: 'A',
    name: 'Pot',
    price: 12,
    category: 'Pots',
    in_stock: true,
    url: 'https://s.example/a',
  },
  { sku: 'B', name: 'Bean', price: 3, category: 'Seeds', in_stock: false },
  { sku: 'C', name: 'Spade', price: 40, category: 'Tools', in_stock: true },
];
const shared: SharedData = {
  shop: {
    name: 'S',
    url: 'https://s.example',
    currency: 'GBP',
    locale: 'en-GB',
    timezone: 'Europe/London',
  },
  catalog: { garden: products },
  feeds: {},
  coupon: {},
};
const index = productIndex(shared);
export const record = (data: PersonData) => assembleRecord(data, shared, index);
