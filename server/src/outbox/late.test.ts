import type { OutboxItem, StoredOccasion, StoredTemplate } from '@carafe/contract';
import { FIRST_RULES, type Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
let template: string;
let person: number;
const api = asking(() => carafe);
const EMAIL = 'maud@post.example';
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  await carafe.mailServer.start(0);
  const c = composer(carafe.newId);
  const words = c.section('One', [c.text('News.'), c.button('Leave', '{{ links.unsubscribe }}')]);
  const made = blankTemplate('News', 's', [words], 'post@s.example');
  const stored = (await api('post', '/templates', { template: made })).body as StoredTemplate;
  template = stored.id;
  await api('post', `/templates/${template}/publish`, { version: stored.version, note: '' });
  const consent = { id: 'e1', at: '2026-11-24T09:00:00Z', shop: 's', kind: 'consent_changed' };
  await api('post', '/events', [{ ...consent, email: EMAIL, consent: true }]);
  person = carafe.tables.people.idOf('s', EMAIL) ?? 0;
});
afterEach(async () => {
  await carafe.runner.idle();
  await carafe.sender.stop();
  await carafe.mailServer.stop();
  carafe.store.close();
});

/** An occasion started by hand, whose one mail goes at once or is held. */
async function byHand(name: string, mode: 'on' | 'held', rest_days = 0) {
  const occasion: Occasion = {
    ...{ name, start: { kind: 'by_hand' }, priority: 5, whom: { guests: true, rest_days } },
    steps: [{ id: name, kind: 'send', template, mail: 'marketing', mode, to: 'person' }],
  };
  const made = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  const on = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect([on.status, said(on)]).toEqual([200, undefined]);
  let n = 0;
  return async () => {
    await api('post', `/occasions/${made.id}/hand`, { people: [person], name: `${name} ${++n}` });
    await carafe.sender.kick();
  };
}
const hours = async (n: number) =>
  expect((await api('post', '/clock', { minutes: n * 60 })).status).toBe(200);
const change = async (to: 'approve' | 'stop') => {
  await api('post', '/shops/s/outbox/changes', { to, query: { state: 'held' } });
  await carafe.sender.kick();
};
const rules = (more: object) => api('put', '/shops/s/mail-rules', { ...FIRST_RULES, ...more });
const outbox = async () =>
  ((await api('get', '/shops/s/outbox')).body as { mails: OutboxItem[] }).mails
    .map(({ step, state, reason }) => [step, state, reason ?? ''].join(' ').trim())
    .sort();

test('a mail that was held goes on the day of its approval, and counts among the mails of that day', async () => {
  const [held, other] = [await byHand('held', 'held'), await byHand('other', 'on')];
  await held();
  await hours(72);
  await change('approve');
  expect(await outbox()).toEqual(['held sent']);
  await hours(2);
  await other();
  expect(await outbox()).toEqual(['held sent']);
  // A day after it went there is room again.
  await hours(23);
  await other();
  expect(await outbox()).toEqual(['held sent', 'other sent']);
});

test('what is approved late is postponed where the mails of that day, or week, went already', async () => {
  const [held, other] = [await byHand('held', 'held'), await byHand('other', 'on')];
  await held();
  await hours(72);
  await other();
  await change('approve');
  expect(await outbox()).toEqual([
    'held waiting Postponed: has received the most marketing emails for one day.',
    'other sent',
  ]);
  await rules({ most_a_day: 0, most_a_week: 1 });
  await hours(24 * 20);
  await held();
  await hours(48);
  await other();
  await hours(48);
  await change('approve');
  // The second of the other waits until a week has gone by.
  expect(await outbox()).toEqual(['held sent', 'held sent', 'other sent']);
  await hours(24 * 7);
  expect(await outbox()).toEqual(['held sent', 'held sent', 'other sent', 'other sent']);
});

test('a mail that was stopped is none that anybody had', async () => {
  const [held, other] = [await byHand('held', 'held', 30), await byHand('other', 'on')];
  await held();
  await held();
  expect(await outbox()).toEqual(['held held']);
  await change('stop');
  await other();
  expect(await outbox()).toEqual([
    'held stopped Stopped by hand before it was approved.',
    'other sent',
  ]);
  // Nor has this occasion to rest for it.
  await hours(25);
  await held();
  expect(await outbox()).toEqual([
    'held held',
    'held stopped Stopped by hand before it was approved.',
    'other sent',
  ]);
});

test('of several that were held for long, one goes at their approval, and no two together', async () => {
  const held = await byHand('held', 'held');
  for (let week = 0; week < 4; week++) {
    await held();
    await hours(24 * 7);
  }
  await rules({ most_a_day: 2 });
  await change('approve');
  expect(await outbox()).toEqual([
    'held held Another marketing email went to this address within a minute. Approve it to send it anyway.',
    'held sent',
    ...Array<string>(2).fill(
      'held waiting Postponed: an email with a higher priority goes to this person first.',
    ),
  ]);
});

test('one that was stopped and is let go on after all is one that they had', async () => {
  const held = await byHand('held', 'held', 30);
  await held();
  await change('stop');
  await hours(25);
  // A second one, by another cause: the first is none.
  await held();
  await change('stop');
  await api('post', '/shops/s/outbox/changes', { to: 'go_on', query: { state: 'stopped' } });
  expect(await outbox()).toEqual(['held held', 'held held']);
  await hours(25);
  await held();
  expect(await outbox()).toEqual(['held held', 'held held']);
});
