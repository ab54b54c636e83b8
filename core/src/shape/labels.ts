import { fieldWords } from './fieldWords';
import type { FieldPath } from './paths';

/** What else people call a field, by a part of its path. */
const ALSO: Record<string, string> = {
  first_name: 'given name forename',
  last_name: 'surname family name',
  email: 'email address',
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
  recover_url: 'cart link url back to cart checkout link',
  lines: 'items item thing things product products contents',
  first: 'one top',
  join: 'list all names commas',
  count: 'number of size',
  subtotal: 'sum before shipping',
  total: 'sum amount to pay',
  discount: 'reduction off',
  shipping: 'postage delivery',
  tax: 'vat',
  picks: 'recommendations recommend recommended suggestions',
  ship_to: 'delivery address ship',
  street: 'address',
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
  const words = said.map(fieldWords).join(' ').trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** How far a field's words are from one that is asked for: 0 where it is called just so. */
function farFrom(asked: string, names: readonly string[], path: readonly string[], also: string) {
  if (names.includes(asked)) return 0;
  if (path.includes(asked)) return 1;
  if (names.some((one) => one.startsWith(asked))) return 2;
  if (` ${also}`.includes(` ${asked}`)) return 3;
  return names.concat(path).some((one) => one.includes(asked)) ? 4 : 8;
}
/** Each word of its name that was not asked for makes a field a little less likely. */
const UNASKED = 0.3;

/** The fields that are meant by some words: those that are called so first, those whose samples say it last. */
export function meantFields(paths: readonly FieldPath[], query: string): FieldPath[] {
  const words = query.trim().toLowerCase();
  const found = paths.filter((path) => isMeant(path, words));
  if (words === '') return found;
  const asked = words.split(/\s+/);
  const far = ({ path, label }: FieldPath): number => {
    const name = (label ?? fieldLabel(path)).toLowerCase();
    if (name === words || path.toLowerCase() === words) return -1;
    const names = name.split(/[\s:,]+/);
    const own = parts(path.toLowerCase()).flatMap((part) => [part, ...part.split('_')]);
    const also = alsoCalled(path).join(' ');
    const sum = asked.reduce((far, one) => far + farFrom(one, names, own, also), 0);
    return sum + UNASKED * names.filter((one) => !asked.includes(one)).length;
  };
  const fars = new Map(found.map((path) => [path, far(path)]));
  return found.sort((a, b) => (fars.get(a) ?? 0) - (fars.get(b) ?? 0));
}

/** What else people call the parts of a path. */
const alsoCalled = (path: string): string[] =>
  parts(path).map((part) => (Object.hasOwn(ALSO, part) ? (ALSO[part] ?? '') : ''));

/** Whether a field is meant by some words: of its label, its path, its samples, or what else it is called. */
export function isMeant({ path, field, label }: FieldPath, query: string): boolean {
  const text = [
    path,
    label ?? fieldLabel(path),
    ...alsoCalled(path),
    ...(field.values ?? field.samples),
  ]
    .join(' ')
    .toLowerCase();
  const words = query.toLowerCase().split(/\s+/);
  const telling = words.filter((word) => !SMALL.has(word));
  return (telling.length > 0 ? telling : words).every((word) => text.includes(word));
}
