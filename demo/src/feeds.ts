import { CATEGORIES, CODE, PICTURES } from './catalog';

const DAY = 86_400_000;

/** The feeds of the house, as its journal publishes them. */
export const DEMO_FEEDS = [
  { id: 'furrow', title: 'The Furrow', link: 'https://furrow.quillmoss.example/' },
  { id: 'sow_now', title: 'What to sow now', link: 'https://sow.quillmoss.example/' },
] as const;

const FURROW = [
  [
    'The bench in November',
    'What we clear, what we keep, and why the string drawer is always full.',
  ],
  ['A frost in the walled garden', 'Three nights below zero, and what came through.'],
  ['Letters: the lost lavender', 'A reader sends us a cutting without a name.'],
  ['How we test a seed', 'Forty to a tray, damp paper, and a warm shelf by the boiler.'],
  ['The pot that outlived its maker', 'On Long Toms, and the hands that threw them.'],
  ['Saving peas for your neighbour', 'Dry them on the vine, shell them by the fire.'],
];
const SOW_NOW = [
  ['Broad beans, under glass', 'Sow in long pots now for a crop in May.'],
  ['Garlic, before the ground hardens', 'A hand’s depth, a hand apart.'],
  ['Sweet peas in a cold frame', 'Autumn-sown peas have the longest stems.'],
  ['Winter lettuce', 'A row on the windowsill is enough.'],
];

/** A post as the journal keeps it; `content` is HTML. */
export interface DemoPost {
  guid: string;
  title: string;
  summary: string;
  content: string;
  image: string;
  author: string;
  category: string;
  published_at: string;
}

function posts(words: string[][], asOf: Date, every: number): DemoPost[] {
  return words.map(([title = '', summary = ''], i) => {
    const category = CATEGORIES[i % 6] ?? 'Seeds';
    return {
      guid: title.toLowerCase().replace(/[^a-z]+/g, '-'),
      title,
      summary,
      content: `<p>${summary}</p>`,
      image: `${PICTURES}/${CODE[category].toLowerCase()}-${101 + i}.png`,
      author: i % 2 === 0 ? 'Hester Lovage' : 'Alder Wainfleet',
      category,
      published_at: new Date(asOf.getTime() - (1 + i * every) * DAY).toISOString(),
    };
  });
}

/** The posts of the two feeds of the house, the latest first. */
export function makePosts(asOf: Date): Record<(typeof DEMO_FEEDS)[number]['id'], DemoPost[]> {
  return { furrow: posts(FURROW, asOf, 9), sow_now: posts(SOW_NOW, asOf, 7) };
}
