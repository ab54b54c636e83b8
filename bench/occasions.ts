import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Fields } from '@carafe/core/formula';
import {
  advance,
  allSteps,
  countIn,
  daysFrom,
  FIRST_RULES,
  momentsOf,
  NEW_STATE,
  noFigures,
  planOf,
  presets,
  replayPerson,
  shoppersOf,
  type PersonState,
  type PresetTemplates,
  type Rates,
  type World,
} from '@carafe/core/occasion';
import { foldEvents, type ShopEvent } from '@carafe/core/record';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { LocalLane } from '../server/src/database/lane';
import { openStore } from '../server/src/database/store';
import { advanceAll } from '../server/src/occasions/advance';
import { fillMails } from '../server/src/outbox/fill';
import { openRepositories } from '../server/src/repositories';
import { handover } from './handover';

const NOW = Date.UTC(2026, 10, 24);
const DAY = 86_400_000;
const DAYS = 30;
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
const noProducts = new Map();
const moments = momentsOf({
  ...{ shared, products: () => noProducts, named: new Map(), segments: [], rules: FIRST_RULES },
});
const plans = presets(TEMPLATES).map((one, i) => planOf(`o${i}`, 1, one, 0));
const world: World = { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };

/** About as the demo’s people behave: a visit in nine days, a fifth of them order. */
const rates: Rates = {
  ...{ people: 1_000, over: 90 * DAY, visits: 10_000, looked: 5_000, left: 3_000, ordered: 2_000 },
  hours: Array.from({ length: 168 }, (_, hour) => 1 + (hour % 24)),
  ...{
    lines: [0, 3, 4, 2, 1],
    delays: [0.3, 0.5, 2, 20],
    statuses: [{ status: 'Sent', hours: 40 }],
  },
  things: Array.from({ length: 200 }, (_, i) => ({
    ...{
      sku: `S${i}`,
      name: `Thing ${i}`,
      price: 5,
      quantity: 1,
      currency: 'GBP',
      category: 'Seeds',
    },
  })),
};
const shoppers = shoppersOf({
  ...{ rates, seed: 3, from: NOW - DAYS * DAY, until: NOW, shop: 's', currency: 'GBP', ahead: 0 },
});

/** Milliseconds for so many people, over 30 days and all eight shipped occasions, on one core. */
function rehearse(people: number): { took: number; mails: number; events: number } {
  const figures = noFigures();
  const from = NOW - DAYS * DAY;
  const dated = [1, 2, 3, 4].map((week) => ({
    at: from + week * 7 * DAY,
    happening: {
      kind: 'time' as const,
      occasion: 'o7',
      name: `w${week}`,
      wall: from + week * 7 * DAY,
    },
  }));
  let events = 0;
  const dayOf = daysFrom(from, 'Europe/London');
  const start = performance.now();
  for (let id = 0; id < people; id++) {
    const email = `p${id}@s.example`;
    const own = shoppers({ id, email });
    events += own.length;
    const data = { person: { email, consent: id % 4 > 0 }, shopper: foldEvents([]) };
    countIn(
      figures,
      id,
      replayPerson({ data, events: own }, { world, moments, dated, from, until: NOW }),
      dayOf,
    );
  }
  return { took: performance.now() - start, mails: figures.mails, events };
}

/** Microseconds that the engine takes for one event of somebody who is inside of some occasions. */
function liveEvent(): number {
  const email = 'p@s.example';
  const events: ShopEvent[] = Array.from({ length: 40 }, (_, i) => ({
    ...{ id: `e${i}`, shop: 's', email, at: new Date(NOW - (40 - i) * 3_600_000).toISOString() },
    ...(i % 9 === 8
      ? { kind: 'order_placed' as const, number: `O${i}` }
      : {
          kind: 'cart_added' as const,
          sku: `S${i}`,
          name: 'T',
          price: 1,
          quantity: 1,
          currency: 'GBP',
        }),
  }));
  const data = { person: { email, consent: true }, shopper: foldEvents(events) };
  let state: PersonState = NEW_STATE;
  const times: number[] = [];
  for (let i = 0; i < 3_000; i++) {
    const at = NOW + i * 60_000;
    const start = performance.now();
    const moment = moments.moment({
      data,
      at,
      happening: { kind: 'person', event: events[i % 40] as ShopEvent },
    });
    ({ state } = advance(state, { kind: 'happening', moment }, world));
    times.push((performance.now() - start) * 1000);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.99)] ?? 0;
}

/** A mail to many through the tables: judged, filled and in the outbox; milliseconds of each part. */
async function oneOff(people: number) {
  const folder = mkdtempSync(join(tmpdir(), 'carafe-bench-'));
  const migrations = resolve('server', 'migrations');
  const store = openStore(join(folder, 'bench.db'), migrations, new LocalLane());
  const parts = openRepositories(store.db);
  const shop = { id: 's', name: 'S', url: 'https://s.example', address: '', logo: '' };
  parts.shops.insert({ ...shop, currency: 'GBP', timezone: 'Europe/London', locale: 'en-GB' });
  await store.write(() => {
    for (let i = 0; i < people; i++)
      parts.people.keep(
        's',
        `p${i}@s.example`,
        { email: `p${i}@s.example`, first_name: `N${i}`, consent: true },
        foldEvents([]),
      );
  });
  const c = composer(countedIds());
  const text =
    'Dear {{ title(person.first_name) otherwise "gardener" }}, here is what the frost leaves us. ';
  const template = blankTemplate('News', 's', [
    c.section(
      'One',
      Array.from({ length: 12 }, () => c.text(text)),
    ),
  ]);
  const envelope = {
    ...template.envelope,
    from_email: 'post@s.example',
    subject: 'News for {{ person.first_name }}',
  };
  const at = new Date(NOW).toISOString();
  parts.templates.insert('t', { ...template, envelope }, at);
  parts.published.insert('t', { number: 1, at, note: '' }, { ...template, envelope });
  const [news] = presets(TEMPLATES).slice(-1);
  if (!news) throw new Error('There is no such occasion.');
  const once = {
    ...news,
    steps: allSteps(news.steps).map((step) =>
      step.kind === 'send' ? { ...step, template: 't', mode: 'on' as const } : step,
    ),
  };
  parts.occasions.insert('o', 's', once, at);
  parts.occasions.publish('o', 1, at, once);
  const since = new Date(NOW - DAY).toISOString();
  parts.occasions.switchOn('o', 1, { on: since, heeded: since, watching: since });
  const began = performance.now();
  await advanceAll(store, parts, {
    ...{ now: NOW, mailIds: 'm', picks: {}, do: 'everyone' as const, shop: 's' },
    happening: { kind: 'time', occasion: 'o', name: 'now', wall: NOW },
  });
  const judged = performance.now() - began;
  const settings = parts.mailSettings.get();
  const common = { now: NOW, settings, base: 'http://127.0.0.1:4600', picks: {}, moved: null };
  for (
    let ids = parts.outbox.toDo('waiting', NOW, 500);
    ids.length > 0;
    ids = parts.outbox.toDo('waiting', NOW, 500)
  )
    await fillMails(store, parts, { ...common, ids });
  const filled = performance.now() - began - judged;
  const ready = parts.outbox.count({ shop: 's', state: 'ready' });
  const handed = await handover(store, parts, { now: NOW, mails: 2_000 });
  // Everybody waits inside, due within three days: an hour goes by.
  await store.write(() =>
    store.db
      .prepare(
        `INSERT OR REPLACE INTO occasion_people (shop, email, due, state)
         SELECT 's', email, ? + (id % 72) * 3600000,
           json_object('runs', json_array(json_object('occasion', 'o', 'version', 1, 'cause', 'time x' || id, 'about', json('{}'),
             'due', ? + (id % 72) * 3600000, 'entered', 1, 'next', 9, 'mails', json('[]'))),
             'settled', json('{}'), 'mails', json('[]'), 'member', json('{}')) FROM people`,
      )
      .run(NOW + 1, NOW + 1),
  );
  const start = performance.now();
  const advanced = await advanceAll(store, parts, {
    now: NOW + 3_600_000,
    mailIds: 'n',
    picks: {},
    do: 'due',
    late: false,
  });
  const hour = performance.now() - start;
  store.close();
  rmSync(folder, { recursive: true, force: true });
  return {
    judged,
    filled,
    ready,
    handed,
    hour,
    due: advanced.people,
    megabytes: process.memoryUsage().rss / 1e6,
  };
}

rehearse(500);
const result = {
  rehearsal: [5_000, 20_000].map((people) => ({ people, ...rehearse(people) })),
  event_p99_us: liveEvent(),
  mailing: [await oneOff(5_000), await oneOff(20_000)],
};
export type OccasionsResult = typeof result;
console.log(JSON.stringify(result));
