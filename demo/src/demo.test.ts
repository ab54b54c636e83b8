import { readTemplate } from '@carafe/core/template';
import {
  DEMO_FEEDS,
  demoTemplates,
  drawProduct,
  makeCatalog,
  makeFiles,
  makePast,
  makePosts,
} from '.';
import { makePeople } from './people';
import { seeded } from './random';

const asOf = new Date('2026-11-24T09:00:00Z');
const files = makeFiles(asOf);

test('the same day gives the same files, another day moves their dates', () => {
  expect(makeFiles(asOf)).toEqual(files);
  const later = makeFiles(new Date('2026-12-24T09:00:00Z'));
  const all = Object.values(files.people).join();
  const allLater = Object.values(later.people).join();
  expect(allLater).not.toBe(all);
  expect(allLater.length).toBe(all.length);
});

test('every address ends in .example', () => {
  const all = [
    ...Object.values(files.people),
    ...Object.values(files.catalogs),
    ...Object.values(files.events),
    JSON.stringify([DEMO_FEEDS, makePosts(asOf)]),
    JSON.stringify(files.shops),
  ].join('\n');
  const hosts = new Set(
    [...all.matchAll(/https?:\/\/([^/"\s,]+)/g), ...all.matchAll(/@([a-z.]+)/g)].map((m) => m[1]),
  );
  expect([...hosts].filter((host) => !host?.endsWith('.example'))).toEqual([]);
  expect(hosts.size).toBeGreaterThan(3);
});

test('the catalog has six categories, lowered prices, some without stock or picture', () => {
  const catalog = makeCatalog(asOf, 'GBP', 'shop.example');
  expect(catalog).toHaveLength(240);
  expect(new Set(catalog.map((p) => p.sku)).size).toBe(240);
  expect(new Set(catalog.map((p) => p.category)).size).toBe(6);
  const share = (test: (p: (typeof catalog)[number]) => boolean) =>
    catalog.filter(test).length / 240;
  expect(share((p) => p.stock === 0)).toBeGreaterThan(0.04);
  expect(share((p) => p.stock === 0)).toBeLessThan(0.14);
  expect(share((p) => p.image === '')).toBeGreaterThan(0.02);
  for (const p of catalog) if (p.was_price !== '') expect(p.was_price).toBeGreaterThan(p.price);
});

test('the past of a catalog ends in what it is now: lowered prices were higher, what is back was out', () => {
  const catalog = makeCatalog(asOf, 'GBP', 'shop.example');
  const past = makePast(catalog, asOf);
  const last = new Map(past.map((change) => [change.sku, change]));
  for (const { sku, price, was_price, stock } of catalog) {
    const change = last.get(sku);
    if (was_price !== '') expect(change?.before.price).toBe(was_price);
    if (change) expect(change.after).toMatchObject({ price, stock });
  }
  expect(past.filter(({ before, after }) => after.price < before.price).length).toBeGreaterThan(20);
  expect(
    past.filter(({ before, after }) => before.stock === 0 && after.stock > 0).length,
  ).toBeGreaterThan(15);
  for (const { at } of past) expect(at.getTime()).toBeLessThan(asOf.getTime());
});

test('2,000 people: some without a name, guests, three languages, with and without consent', () => {
  const people = makePeople(asOf);
  expect(people).toHaveLength(2000);
  expect(new Set(people.map((p) => `${p.shop} ${p.email}`)).size).toBe(2000);
  expect(new Set(people.map((p) => p.locale)).size).toBe(3);
  for (const some of [
    people.filter((p) => p.first_name === ''),
    people.filter((p) => p.guest),
    people.filter((p) => !p.consent),
  ])
    expect(some.length).toBeGreaterThan(100);
});

test('events come in the order of their time and none lies ahead', () => {
  for (const ndjson of Object.values(files.events)) {
    const times = ndjson.split('\n').map((line) => (JSON.parse(line) as { at: string }).at);
    expect([...times].sort()).toEqual(times);
    expect(Date.parse(times.at(-1) ?? '')).toBeLessThanOrEqual(asOf.getTime() + 86_400_000);
  }
});

test('carts are filled evenly over the weeks and ordered within minutes, hours or days', () => {
  const HOUR = 3_600_000;
  const weeks = Array.from({ length: 8 }, () => 0);
  const pauses: number[] = [];
  for (const ndjson of Object.values(files.events)) {
    const filled = new Map<string, number>();
    for (const line of ndjson.split('\n')) {
      const { kind, email, at } = JSON.parse(line) as { kind: string; email: string; at: string };
      const time = Date.parse(at);
      const last = filled.get(email);
      if (kind === 'cart_added') {
        const week = Math.floor((asOf.getTime() - time) / (168 * HOUR));
        if (last === undefined && week in weeks) weeks[week] = (weeks[week] ?? 0) + 1;
        filled.set(email, time);
      } else if (kind === 'order_placed') {
        if (last !== undefined) pauses.push(time - last);
        filled.delete(email);
      } else if (kind === 'cart_removed') filled.delete(email);
    }
  }
  const mean = weeks.reduce((sum, one) => sum + one, 0) / weeks.length;
  for (const count of weeks) {
    expect(count).toBeGreaterThan(mean * 0.55);
    expect(count).toBeLessThan(mean * 1.75);
  }
  const share = (least: number, most: number) =>
    pauses.filter((pause) => pause >= least && pause < most).length / pauses.length;
  expect(share(0, HOUR)).toBeGreaterThan(0.35);
  expect(share(HOUR, 24 * HOUR)).toBeGreaterThan(0.15);
  expect(share(24 * HOUR, 24 * 7 * HOUR)).toBeGreaterThan(0.08);
  expect(Math.min(...pauses)).toBeGreaterThan(60_000);
});

test('the templates are sound', () => {
  for (const template of demoTemplates())
    expect(readTemplate(JSON.parse(JSON.stringify(template)))).toMatchObject({ ok: true });
});

test('pictures are PNGs, the same for the same product', () => {
  const png = Buffer.from(drawProduct({ sku: 'P-101', category: 'Pots' }));
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  expect(Buffer.from(drawProduct({ sku: 'P-101', category: 'Pots' })).equals(png)).toBe(true);
});

test('seeded chance stays in its range', () => {
  const r = seeded(1);
  for (let i = 0; i < 1000; i++) {
    expect(r.whole(2, 4)).toBeGreaterThanOrEqual(2);
    expect(r.next()).toBeLessThan(1);
  }
  expect(() => r.pick([])).toThrow();
});
