import { CATEGORIES, CODE, PICTURES } from './catalog';

const DAY = 86_400_000;

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

function feed(title: string, host: string, posts: string[][], asOf: Date, every: number): object {
  return {
    version: 'https://jsonfeed.org/version/1.1',
    title,
    home_page_url: `https://${host}/`,
    items: posts.map(([headline = '', summary = ''], i) => ({
      id: `${host}/${i}`,
      url: `https://${host}/${headline.toLowerCase().replace(/[^a-z]+/g, '-')}`,
      title: headline,
      summary,
      content_text: summary,
      image: `${PICTURES}/${CODE[CATEGORIES[i % 6] ?? 'Seeds'].toLowerCase()}-${101 + i}.png`,
      date_published: new Date(asOf.getTime() - (1 + i * every) * DAY).toISOString(),
      tags: [CATEGORIES[i % 6]],
      authors: [{ name: i % 2 === 0 ? 'Hester Lovage' : 'Alder Wainfleet' }],
    })),
  };
}

/** The two feeds of the house as JSON Feed documents. */
export function makeFeeds(asOf: Date): Record<string, object> {
  return {
    furrow: feed('The Furrow', 'furrow.quillmoss.example', FURROW, asOf, 9),
    sow_now: feed('What to sow now', 'sow.quillmoss.example', SOW_NOW, asOf, 7),
  };
}
