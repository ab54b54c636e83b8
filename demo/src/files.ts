import { makeCatalog, PICTURES } from './catalog';
import { makeEvents } from './history';
import { makePeople } from './people';

/** A shop of the house with what is known of it beforehand. */
export interface DemoShop {
  id: string;
  name: string;
  url: string;
  address: string;
  logo: string;
  /** Where recipients find the pictures of the library. */
  pictures: string;
  currency: string;
  timezone: string;
  locale: string;
}

export const DEMO_SHOPS: DemoShop[] = [
  {
    id: 'quillmoss-gb',
    name: 'Quillmoss Seed House',
    url: 'https://shop.quillmoss.example',
    address: 'The Old Chapel, Nether Quill, Northumberland',
    logo: `${PICTURES}/logo.png`,
    pictures: PICTURES,
    currency: 'GBP',
    timezone: 'Europe/London',
    locale: 'en-GB',
  },
  {
    id: 'quillmoss-eu',
    name: 'Quillmoss Samenhaus',
    url: 'https://laden.quillmoss.example',
    address: 'Alte Gärtnerei 4, Mooswinkel',
    logo: `${PICTURES}/logo.png`,
    pictures: PICTURES,
    currency: 'EUR',
    timezone: 'Europe/Berlin',
    locale: 'de-DE',
  },
];

/** The files that a shop would send, as text in open formats. */
export interface DemoFiles {
  shops: DemoShop[];
  /** By shop: products, people and coupon codes as CSV, events as NDJSON. */
  catalogs: Record<string, string>;
  people: Record<string, string>;
  events: Record<string, string>;
  coupons: Record<string, string>;
}

function cell(value: unknown): string {
  const text = value === undefined || value === null ? '' : String(value);
  return /[",\n\r]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
}

function csv(rows: object[]): string {
  const [first] = rows;
  if (!first) return '';
  const names = Object.keys(first);
  return [
    names.map(cell).join(','),
    ...rows.map((row) => Object.values(row).map(cell).join(',')),
  ].join('\r\n');
}

function coupons(currency: string): string {
  return csv(
    Array.from({ length: 50 }, (_, i) => ({
      code: `${currency === 'EUR' ? 'FROST' : 'FURROW'}-${String(7919 * (i + 13)).slice(-4)}`,
      policy: 'welcome',
      percent: 10,
    })),
  );
}

/** All files of the demo, with dates before `asOf`. The same day gives the same files. */
export function makeFiles(asOf: Date): DemoFiles {
  const people = makePeople(asOf);
  const files: DemoFiles = {
    shops: DEMO_SHOPS,
    catalogs: {},
    people: {},
    events: {},
    coupons: {},
  };
  for (const { id, currency, url } of DEMO_SHOPS) {
    const products = makeCatalog(asOf, currency, new URL(url).host);
    files.catalogs[id] = csv(products);
    files.coupons[id] = coupons(currency);
    files.people[id] = csv(
      people.filter(({ shop }) => shop === id).map(({ shop: _shop, ...person }) => person),
    );
    files.events[id] = makeEvents(id, currency, people, products, asOf)
      .map((event) => JSON.stringify(event))
      .join('\n');
  }
  return files;
}
