import type { FieldPath } from './paths';

/** What else people call a field, by a part of its path. */
const ALSO: Record<string, string> = {
  first_name: 'given name forename',
  last_name: 'surname family name',
  email: 'mail address',
  locale: 'language',
  timezone: 'time zone',
  joined: 'signed up member since',
  consent: 'permission opt-in subscribed marketing',
  rank: 'best customers loyalty',
  orders_count: 'how many orders number of orders',
  orders_total: 'spent lifetime value',
  last_order_at: 'bought last',
  last_seen_at: 'visited last active',
  cart: 'basket bag trolley',
  recover_url: 'cart link back to cart checkout link',
  lines: 'items item thing things product products contents',
  first: 'one top',
  join: 'list all names commas',
  count: 'number of size',
  subtotal: 'sum before shipping',
  total: 'sum amount to pay',
  discount: 'reduction off',
  shipping: 'postage delivery',
  tax: 'vat',
  coupon: 'voucher code promo discount code',
  expires_at: 'valid until',
  image: 'picture photo',
  url: 'link address page',
  was_price: 'price before old price',
  in_stock: 'available availability',
  properties: 'engraved note personalised options',
  posts: 'articles stories',
  view_url: 'order link',
  pay_url: 'payment link',
  unsubscribe: 'opt out leave',
  view_in_browser: 'web version online version',
};

/** Words that say nothing of a field. */
const SMALL = new Set('a an the of in on to for by with at is'.split(' '));

const parts = (path: string) => path.split(/[.[\]"(),\s]+/).filter((part) => part !== '');

/** A field in words, as a person would say it: “First name”, “Cart total”, “Line name”. */
export function fieldLabel(path: string): string {
  const [root = '', ...rest] = parts(path);
  const said = (root === 'person' || root === 'own') && rest.length > 0 ? rest : [root, ...rest];
  const words = said.join(' ').replaceAll('_', ' ').trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** The fields that are meant by some words, those that are called just so first. */
export function meantFields(paths: readonly FieldPath[], query: string): FieldPath[] {
  const words = query.trim().toLowerCase();
  const far = ({ path, label }: FieldPath): number => {
    const called = (label ?? fieldLabel(path)).toLowerCase();
    if (called === words || path.toLowerCase() === words) return 0;
    return called.startsWith(words) ? 1 : 2;
  };
  const found = paths.filter((path) => isMeant(path, words));
  return words === '' ? found : found.sort((a, b) => far(a) - far(b));
}

/** Whether a field is meant by some words: of its label, its path, its samples, or what else it is called. */
export function isMeant({ path, field, label }: FieldPath, query: string): boolean {
  const also = parts(path).map((part) => (Object.hasOwn(ALSO, part) ? ALSO[part] : ''));
  const text = [path, label ?? fieldLabel(path), ...also, ...field.samples].join(' ').toLowerCase();
  const words = query.toLowerCase().split(/\s+/);
  const telling = words.filter((word) => !SMALL.has(word));
  return (telling.length > 0 ? telling : words).every((word) => text.includes(word));
}
