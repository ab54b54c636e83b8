import {
  momentsOf,
  presets,
  planOf,
  FIRST_RULES,
  noFigures,
  countIn,
  replayPerson,
  shoppersOf,
  type PresetTemplates,
  type Rates,
  type World,
} from '@carafe/core/occasion';
import { foldEvents } from '@carafe/core/record';
import type { Fields } from '@carafe/core/formula';
const NOW = Date.UTC(2026, 10, 24);
const DAY = 86_400_000;
const TEMPLATES = new Proxy({}, { get: (_, name) => name }) as PresetTemplates;
const shared = {
  shop: {
    name: 'S',
    url: 'https://s.example',
    timezone: 'Europe/London',
    locale: 'en-GB',
    currency: 'GBP',
  } as Fields,
  ...{ catalog: {}, coupon: {} },
  feeds: {
    furrow: { posts: [{ title: 'P', published_at: new Date(NOW - DAY) }] },
  } as unknown as Fields,
};
const none = new Map();
const moments = momentsOf({
  shared,
  products: () => none,
  named: new Map(),
  segments: [],
  rules: FIRST_RULES,
});
const plans = presets(TEMPLATES).map((one, i) => planOf(`o${i}`, 1, one, 0));
const world: World = { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };
const rates: Rates = {
  ...{ people: 1_000, over: 90 * DAY, visits: 10_000, looked: 5_000, left: 3_000, ordered: 2_000 },
  hours: Array.from({ length: 168 }, (_, hour) => 1 + (hour % 24)),
  ...{
    lines: [0, 3, 4, 2, 1],
    delays: [0.3, 0.5, 2, 20],
    statuses: [{ status: 'Sent', hours: 40 }],
  },
  things: Array.from({ length: 200 }, (_, i) => ({
    sku: `S${i}`,
    name: `Thing ${i}`,
    price: 5,
    quantity: 1,
    currency: 'GBP',
    category: 'Seeds',
  })),
};
const shoppers = shoppersOf({
  rates,
  seed: 3,
  from: NOW - 30 * DAY,
  until: NOW,
  shop: 's',
  currency: 'GBP',
  ahead: 0,
});
const from = NOW - 30 * DAY;
const dated = [1, 2, 3, 4].map((week) => ({
  at: from + week * 7 * DAY,
  happening: {
    kind: 'time' as const,
    occasion: 'o7',
    name: `w${week}`,
    wall: from + week * 7 * DAY,
  },
}));
function go(people: number) {
  const figures = noFigures();
  let gen = 0,
    events = 0;
  const start = performance.now();
  for (let id = 0; id < people; id++) {
    const email = `p${id}@s.example`;
    const a = performance.now();
    const own = shoppers({ id, email });
    gen += performance.now() - a;
    events += own.length;
    const data = { person: { email, consent: id % 4 > 0 }, shopper: foldEvents([]) };
    countIn(
      figures,
      id,
      replayPerson({ data, events: own }, { world, moments, dated, from, until: NOW }),
      from,
    );
  }
  const took = performance.now() - start;
  figures.samples.forEach((s: any) => delete s.about);
  console.log(
    people,
    (took / people).toFixed(3),
    'ms/person; events',
    (events / people).toFixed(1),
    'gen',
    (gen / people).toFixed(3),
    'mails',
    figures.mails / people,
    figures.entered / people,
  );
  return (
    JSON.stringify(figures).length +
    ' ' +
    require('node:crypto').createHash('md5').update(JSON.stringify(figures)).digest('hex')
  );
}
import { createRequire } from 'node:module';
const require = createRequire(import.meta.url);
go(500);
console.log(go(5000));
console.log(go(5000));
