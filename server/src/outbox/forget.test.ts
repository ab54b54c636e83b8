import { deflateSync } from 'node:zlib';
import type { OutboxState } from '@carafe/contract';
import type { Db } from '../database/open';
import { testServer } from '../testing';
import { forgetOld, forgetTold } from './forget';
import { packsOf } from './kept';

// The bytes of old mails are forgotten, of all of them; the mails are still told of.

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => (carafe = await testServer()));
afterEach(() => carafe.store.close());

const DAY = 86_400_000;
const NOW = Date.parse('2026-11-24T09:00:00Z');

/** Mails that were filled and came to a state, one an hour, the oldest first; `together` so many in a pack. */
async function mails(count: number, state: OutboxState, from: number, together: number) {
  const { outbox } = carafe.tables;
  const name = (i: number) => `${state}${from}-${i}`;
  await carafe.store.write(() => {
    for (let at = 0; at < count; at += together) {
      const some = Array.from({ length: Math.min(together, count - at) }, (_, i) => name(at + i));
      some.forEach((id, i) => {
        const step = { id: 'm', kind: 'send', template: 't', mail: 'service', mode: 'on' };
        const effect = { kind: 'mail', occasion: 'o', version: 1, cause: id, about: {} };
        outbox.insert(
          ...([id, 's', `${id}@post.example`] as const),
          { ...effect, key: id, step: { ...step, to: 'person' }, at: from + i } as never,
          {},
        );
      });
      const filled = some.map((id) => ({
        ...{ id, subject: id, to: 'a@b.example', messageId: `<${id}>`, links: [id], shown: [] },
        ...{ kept: { message: [id], trail: [{ of: id }] }, tracked: false, published: 1 },
      }));
      for (const pack of packsOf(filled)) outbox.fill(pack, NOW);
      for (const id of some) outbox.move(id, 'ready', state);
    }
  });
  return Array.from({ length: count }, (_, i) => name(i));
}
const packs = (db: Db) => db.prepare<[], number>('SELECT COUNT(*) FROM outbox_packs').pluck().get();
const isKept = (id: string) => carafe.tables.outbox.source(id)?.source.toString() === id;

test('all that is old and has ended is forgotten, however many mails that are', async () => {
  const { store, tables } = carafe;
  const old = await mails(1_234, 'sent', NOW - 100 * DAY, 50);
  const [open] = await mails(1, 'in_doubt', NOW - 99 * DAY, 1);
  const late = await mails(3, 'bounced', NOW - 98 * DAY, 2);
  const young = await mails(120, 'sent', NOW - DAY, 50);
  const before = new Date(NOW - 90 * DAY).toISOString();
  await forgetOld(store, tables.outbox, before);
  expect([...old, ...late].filter(isKept)).toEqual([]);
  expect(young.filter(isKept)).toEqual(young);
  expect(isKept(open ?? '')).toBe(true);
  expect(tables.outbox.count({ shop: 's' })).toBe(1_234 + 1 + 3 + 120);
  // Packs go with the last mail in them.
  expect(packs(store.db)).toBe(1 + 3);
  await forgetOld(store, tables.outbox, before);
  expect(young.filter(isKept)).toEqual(young);
});

test('a mail that is filled anew is the new one, and its pack goes when nothing is left in it', async () => {
  const { store, tables } = carafe;
  const [a = '', b = ''] = await mails(2, 'ready', NOW - DAY, 2);
  const anew = (id: string) =>
    store.write(() => {
      tables.outbox.fillAnew(id);
      const mail = {
        ...{ id, subject: 'New', to: 'a@b.example', messageId: '<n>', links: ['new'], shown: [] },
        ...{ kept: { message: ['new'], trail: [] }, tracked: false, published: 2 },
      };
      return packsOf([mail]).map((pack) => tables.outbox.fill(pack, NOW));
    });
  expect(await anew(a)).toEqual([1]);
  expect(tables.outbox.source(a)?.source.toString()).toBe('new');
  expect(tables.outbox.links(a)).toEqual(['new']);
  expect(isKept(b)).toBe(true);
  expect(packs(store.db)).toBe(2);
  await anew(b);
  expect(packs(store.db)).toBe(2);
  expect(tables.outbox.source(b)?.source.toString()).toBe('new');
});

test('what waits no more when it was filled is not kept', async () => {
  const { store, tables } = carafe;
  const [stopped = ''] = await mails(1, 'stopped', NOW - DAY, 1);
  const mail = {
    ...{ id: stopped, subject: 'N', to: 'a@b.example', messageId: '<n>', links: [], shown: [] },
    ...{ kept: { message: ['new'], trail: [] }, tracked: false, published: 2 },
  };
  const kept = await store.write(() =>
    packsOf([mail]).map((pack) => tables.outbox.fill(pack, NOW)),
  );
  expect(kept).toEqual([0]);
  expect(isKept(stopped)).toBe(true);
  expect(packs(store.db)).toBe(1);
});

test('a mail that was kept before packs were is read beside those in packs', async () => {
  const { store, tables } = carafe;
  const [old = '', other = ''] = await mails(2, 'sent', NOW - DAY, 2);
  store.db
    .prepare(
      'UPDATE outbox_sources SET source = ?, trail = ?, pack = NULL, place = NULL WHERE id = ?',
    )
    .run(deflateSync('as it was'), deflateSync('[{"of":"before"}]'), old);
  expect(tables.outbox.source(old)).toEqual({
    ...{ source: Buffer.from('as it was'), trail: [{ of: 'before' }], links: [old] },
  });
  expect(isKept(other)).toBe(true);
});

test('what occasions did long ago is forgotten, however much it is', async () => {
  const { store, tables } = carafe;
  const told = (from: number, count: number) =>
    store.write(() => {
      for (let i = 0; i < count; i++)
        tables.states.tell('s', `p${i % 7}@post.example`, [
          { kind: 'entered', occasion: 'o', version: 1, cause: `c${i}`, about: {}, at: from + i },
        ]);
    });
  await told(NOW - 100 * DAY, 1_234);
  await told(NOW - DAY, 21);
  await forgetTold(store, tables.states, NOW - 90 * DAY);
  const left = Array.from({ length: 7 }, (_, i) =>
    tables.states.trail('s', `p${i}@post.example`, 2_000),
  ).flat();
  expect(left).toHaveLength(21);
  expect(left.every(({ at }) => at >= NOW - DAY)).toBe(true);
});
