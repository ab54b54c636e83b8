import type { Received } from '@carafe/contract';
import { asking, testServer } from '../testing';

// The stand-in mailbox keeps the latest, and forgets the oldest one by one.

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => (carafe = await testServer()));
afterEach(() => carafe.store.close());

const api = asking(() => carafe);

const taken = (i: number) => ({
  ...{ id: `m${i}`, received_at: new Date(i * 1_000).toISOString(), from: 'a@b.example' },
  ...{ to: ['c@d.example'], source: Buffer.from(`mail ${i}`) },
});
const put = (from: number, count: number) =>
  carafe.store.write(() => {
    for (let i = from; i < from + count; i++) carafe.tables.mailbox.insert(taken(i));
  });
const kept = () =>
  carafe.store.db.prepare<[], number>('SELECT COUNT(*) FROM mailbox').pluck().get();

test('of more mails than are kept the oldest go, also after it was emptied', async () => {
  const { mailbox } = carafe.tables;
  await put(0, 5_003);
  expect(kept()).toBe(5_000);
  expect([0, 1, 2, 3, 5_002].map((i) => mailbox.find(`m${i}`)?.id ?? null)).toEqual([
    ...[null, null, null, 'm3', 'm5002'],
  ]);
  await carafe.store.write(() => mailbox.empty());
  await put(6_000, 2);
  expect(kept()).toBe(2);
  expect(mailbox.latest().map(({ id }) => id)).toEqual(['m6001', 'm6000']);
});

test('it is listed with its subjects, the latest first, again and again, and no more once it is emptied', async () => {
  const words = { m1: 'Für Maud', m2: 'Zwei' };
  const of = (subject: string) =>
    `From: a@b.example\r\nSubject: =?UTF-8?B?${Buffer.from(subject).toString('base64')}?=\r\n\r\nSubject: not this`;
  const listed = async () =>
    ((await api('get', '/mailbox')).body as { mails: Received[] }).mails.map(
      ({ id, subject }) => `${id} ${subject}`,
    );
  const take = (i: number, subject: string) =>
    carafe.store.write(() =>
      carafe.tables.mailbox.insert({ ...taken(i), source: Buffer.from(of(subject)) }),
    );
  await take(1, words.m1);
  expect(await listed()).toEqual(['m1 Für Maud']);
  await take(2, words.m2);
  expect(await listed()).toEqual(['m2 Zwei', 'm1 Für Maud']);
  expect(await listed()).toEqual(['m2 Zwei', 'm1 Für Maud']);
  await carafe.store.write(() => carafe.tables.mailbox.empty());
  expect(await listed()).toEqual([]);
  await take(1, 'Another');
  expect(await listed()).toEqual(['m1 Another']);
});
