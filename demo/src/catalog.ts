import { seeded, type Random } from './random';

export interface DemoProduct {
  sku: string;
  name: string;
  description: string;
  url: string;
  image: string;
  price: number;
  was_price: number | '';
  currency: string;
  category: string;
  categories: string;
  brand: string;
  tags: string;
  stock: number;
  added_at: string;
  sow_months: string;
  latin_name: string;
}

export const CATEGORIES = ['Seeds', 'Bulbs', 'Pots', 'Tools', 'Books', 'Workshops'] as const;
export type Category = (typeof CATEGORIES)[number];

/** The letter that a category's SKUs begin with. */
export const CODE: Record<Category, string> = {
  Seeds: 'S',
  Bulbs: 'B',
  Pots: 'P',
  Tools: 'T',
  Books: 'K',
  Workshops: 'W',
};

/** Pictures are served under this address; the application shows them from its own disk. */
export const PICTURES = 'https://pictures.quillmoss.example';

const FIRST: Record<Category, string[]> = {
  Seeds: [
    'Lanternwick',
    'Copper Maiden',
    'Old Orchard',
    'Moonhollow',
    'Fenland',
    'Saltmarsh',
    'Widow’s Lace',
    'Tallow',
  ],
  Bulbs: [
    'Winterbell',
    'Ashdown',
    'Pale Regent',
    'Nightlamp',
    'Small Mercy',
    'Harrow',
    'First Light',
    'Kestrel',
  ],
  Pots: [
    'Long Tom',
    'Potting Bench',
    'Half Moon',
    'Orangery',
    'Cottage',
    'Thrown',
    'Saltglaze',
    'Nursery',
  ],
  Tools: [
    'Ash-handled',
    'Hand-forged',
    'Border',
    'Greenhouse',
    'Allotment',
    'Copper',
    'Folding',
    'Long-reach',
  ],
  Books: [
    'The Patient',
    'A Year in the',
    'The Small',
    'Notes from a',
    'The Walled',
    'Saving the',
    'The Late',
    'An Honest',
  ],
  Workshops: [
    'A Morning of',
    'An Evening of',
    'First Steps in',
    'A Weekend of',
    'The Art of',
    'Winter',
    'Spring',
    'An Hour of',
  ],
};
const SECOND: Record<Category, string[]> = {
  Seeds: ['foxglove', 'runner bean', 'poppy', 'kale', 'sweet pea'],
  Bulbs: ['tulip', 'narcissus', 'allium', 'crocus', 'snowdrop'],
  Pots: ['pot', 'pan', 'trough', 'saucer', 'jar'],
  Tools: ['dibber', 'trowel', 'hoe', 'secateurs', 'riddle'],
  Books: ['Gardener', 'Potting Shed', 'Seed', 'Orchard', 'Border'],
  Workshops: ['Seed Saving', 'Grafting', 'Pruning', 'Pot Throwing', 'Willow Weaving'],
};
const PRICE: Record<Category, [number, number]> = {
  Seeds: [195, 495],
  Bulbs: [450, 1450],
  Pots: [850, 4800],
  Tools: [950, 6200],
  Books: [1200, 3200],
  Workshops: [3500, 9500],
};
export const VARIANTS: Record<Category, string[]> = {
  Seeds: ['Packet of 50', 'Packet of 200', 'Tin of 500'],
  Bulbs: ['Bag of 10', 'Bag of 25', 'Sack of 100'],
  Pots: ['12 cm', '18 cm', '26 cm'],
  Tools: ['Ash', 'Beech'],
  Books: ['Hardback', 'Paperback'],
  Workshops: ['Saturday', 'Sunday'],
};
const WORDS = [
  'Grown on for three seasons in our walled garden before it reaches you.',
  'A customer sent us this one; we have kept it true ever since.',
  'Slow to start and then there is no stopping it.',
  'Made for us by two sisters in a workshop behind the chapel.',
  'It asks for little: some shade, some patience, water in May.',
];
const MONTHS = ['Jan–Mar', 'Feb–Apr', 'Mar–May', 'Aug–Oct', 'Sep–Nov'];
const DAY = 86_400_000;

function product(
  category: Category,
  index: number,
  r: Random,
  asOf: Date,
  currency: string,
  host: string,
): DemoProduct {
  const first = FIRST[category][Math.floor(index / 5)] ?? '';
  const second = SECOND[category][index % 5] ?? '';
  const name = `${first} ${second}`;
  const sku = `${CODE[category]}-${String(101 + index)}`;
  const [low, high] = PRICE[category];
  const rate = currency === 'EUR' ? 1.18 : 1;
  const price = (Math.round((r.whole(low, high) / 5) * rate) * 5) / 100;
  const lowered = r.chance(0.14);
  const pictured = !r.chance(0.06);
  const slug = name.toLowerCase().replace(/[^a-z]+/g, '-');
  return {
    sku,
    name,
    description: r.pick(WORDS),
    url: `https://${host}/p/${slug}-${sku.toLowerCase()}`,
    image: pictured ? `${PICTURES}/${sku.toLowerCase()}.png` : '',
    price,
    was_price: lowered ? Math.round(price * r.whole(120, 150)) / 100 : '',
    currency,
    category,
    categories: `${category}|${second[0]?.toUpperCase()}${second.slice(1)}`,
    brand: 'Quillmoss',
    tags: [r.pick(['Shade', 'Sun', 'Either']), r.pick(['Heritage', 'Bees', 'Gift'])].join('|'),
    stock: r.chance(1 / 12) ? 0 : r.whole(2, 240),
    added_at: new Date(asOf.getTime() - r.whole(3, 700) * DAY).toISOString().slice(0, 10),
    sow_months: category === 'Seeds' || category === 'Bulbs' ? r.pick(MONTHS) : '',
    latin_name: category === 'Seeds' ? `${first.split(/\W/)[0]}ia ${second.split(' ')[0]}alis` : '',
  };
}

/** 240 products in 6 categories, priced for one shop. */
export function makeCatalog(asOf: Date, currency: string, host: string): DemoProduct[] {
  const r = seeded(currency === 'EUR' ? 11 : 7);
  return CATEGORIES.flatMap((category) =>
    Array.from({ length: 40 }, (_, i) => product(category, i, r, asOf, currency, host)),
  );
}
