import { FIRST_RULES } from '@carafe/core/occasion';
import { advanceAll, type AdvanceAnswer } from '../occasions/advance';
import { said, TEST_SHOP, testServer } from '../testing';
import { stageOf } from '../testingOccasions';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(async () => {
  await carafe.runner.idle();
  await carafe.sender.stop();
  await carafe.mailServer.stop();
  carafe.store.close();
});
const stage = stageOf(() => carafe);
const { api, event, agree, move, template, send, on, states, outbox, mailbox } = stage;
const start = { kind: 'by_hand' } as const;

/** An occasion started by hand, and a way to let some people in. */
async function byHand(mode: 'on' | 'held', more: object = {}) {
  const words = await template('News');
  const id = await on({ name: 'News', start, steps: [send('a', words, { mode, ...more })] });
  let n = 0;
  return {
    id,
    async enter(...names: string[]) {
      for (const name of names) await agree(`${name}@post.example`);
      const people = names.map((name) => carafe.tables.people.idOf('s', `${name}@post.example`));
      const body = { people, name: `list ${++n}` };
      expect((await api('post', `/occasions/${id}/hand`, body)).status).toBe(200);
      await carafe.sender.kick();
    },
  };
}
const change = (to: string, more: object = {}) =>
  api('post', '/shops/s/outbox/changes', { to, query: {}, ...more });

describe('off means off', () => {
  // The stand-in mailbox does not answer yet: whatever is filled waits.
  test.each(['off', 'delete'])('what waits is stopped at once: %s', async (how) => {
    const news = await byHand('on');
    await news.enter('maud', 'nora');
    expect(await states()).toEqual(['maud a ready', 'nora a ready']);
    await (how === 'off'
      ? api('post', `/occasions/${news.id}/off`)
      : api('delete', `/occasions/${news.id}`));
    expect(await states()).toEqual(['maud a stopped', 'nora a stopped']);
    expect((await outbox())[0]?.reason).toBe(
      how === 'off' ? 'The occasion was switched off.' : 'The occasion was deleted.',
    );
    await carafe.mailServer.start(0);
    carafe.sender.afresh();
    await carafe.sender.kick();
    expect(await mailbox()).toEqual([]);
  });

  test('what was created before it was switched off does not go when it is on again', async () => {
    const news = await byHand('on');
    await news.enter('maud');
    carafe.wait(1);
    await carafe.store.write(() =>
      carafe.tables.occasions.switchOff(news.id, '2026-11-24T09:30:00.000Z'),
    );
    const since = '2026-11-24T10:00:00.000Z';
    await carafe.store.write(() =>
      carafe.tables.occasions.switchOn(news.id, 1, { on: since, heeded: since, watching: since }),
    );
    await carafe.mailServer.start(0);
    carafe.sender.afresh();
    await carafe.sender.kick();
    expect(await states()).toEqual(['maud a stopped']);
    expect(await mailbox()).toEqual([]);
  });

  test('it goes all the same where somebody says so', async () => {
    const news = await byHand('on');
    await news.enter('maud');
    await api('post', `/occasions/${news.id}/off`, { waiting: 'send' });
    await carafe.mailServer.start(0);
    carafe.sender.afresh();
    await carafe.sender.kick();
    expect(await states()).toEqual(['maud a sent']);
  });

  test('an email that is approved after its occasion was switched off is asked about once more', async () => {
    await carafe.mailServer.start(0);
    const news = await byHand('held');
    await news.enter('maud');
    await api('post', `/occasions/${news.id}/off`, { waiting: 'send' });
    // Another one, that somebody kept without a word about the switch.
    carafe.tables.occasions.switchOff(news.id, '2026-11-24T09:30:00.000Z');
    await carafe.store.write(() =>
      carafe.store.db.prepare(`UPDATE outbox SET approved = ''`).run(),
    );
    const refused = await change('approve');
    expect([refused.status, said(refused)]).toEqual([
      409,
      '“News” was switched off after this email was created. Nothing was sent. Confirm that it is to be sent anyway.',
    ]);
    expect(await states()).toEqual(['maud a held']);
    await change('approve', { even_off: true });
    await carafe.sender.kick();
    expect(await states()).toEqual(['maud a sent']);
  });

  test('what is confirmed for one that is off says nothing of another one that is switched off later', async () => {
    const [one, two] = [await byHand('held'), await byHand('held')];
    await one.enter('maud');
    await two.enter('nora');
    carafe.wait(0.1);
    await api('post', `/occasions/${one.id}/off`, { waiting: 'send' });
    await carafe.store.write(() =>
      carafe.store.db.prepare(`UPDATE outbox SET approved = ''`).run(),
    );
    await change('approve', { even_off: true });
    carafe.wait(0.1);
    await api('post', `/occasions/${two.id}/off`);
    await carafe.mailServer.start(0);
    carafe.sender.afresh();
    await carafe.sender.kick();
    expect(await states()).toEqual(['maud a sent', 'nora a stopped']);
    const kept = carafe.store.db.prepare('SELECT approved FROM outbox ORDER BY rowid').pluck();
    expect(kept.all()).toEqual(['switched_off step', 'step']);
  });

  test.each([
    ['send_again', `state = 'in_doubt'`],
    ['try_again', `state = 'bounced', reason = 'There is no such mailbox.'`],
  ])('what is confirmed to go though its occasion is off goes: %s', async (to, became) => {
    const news = await byHand('on');
    await news.enter('maud');
    await api('post', `/occasions/${news.id}/off`);
    await carafe.store.write(() => carafe.store.db.prepare(`UPDATE outbox SET ${became}`).run());
    await carafe.mailServer.start(0);
    carafe.sender.afresh();
    expect((await change(to)).status).toBe(409);
    expect((await change(to, { even_off: true })).body).toEqual({ changed: 1 });
    await carafe.sender.kick();
    expect(await states()).toEqual(['maud a sent']);
  });
});

test('what was sent is sent again as a new email of its cause; what was not sent is not', async () => {
  await carafe.mailServer.start(0);
  const news = await byHand('on');
  await news.enter('maud');
  await carafe.sender.kick();
  expect(await states()).toEqual(['maud a sent']);
  expect((await change('repeat')).body).toEqual({ changed: 1 });
  await carafe.sender.kick();
  const rows = carafe.store.db
    .prepare('SELECT id, key, cause, step, state, message_id FROM outbox ORDER BY rowid')
    .all() as Record<string, string>[];
  const [first, second] = rows;
  // Nothing holds it for being the same within a minute: that is what was asked for.
  expect(rows.map(({ state }) => state)).toEqual(['sent', 'sent']);
  expect([second?.cause, second?.step]).toEqual([first?.cause, first?.step]);
  expect(second?.message_id).not.toBe(first?.message_id);
  expect(await mailbox()).toHaveLength(2);
  // After it was switched off, only where that is confirmed.
  await api('post', `/occasions/${news.id}/off`);
  expect((await change('repeat')).status).toBe(409);
  await carafe.store.write(() =>
    carafe.store.db.prepare(`UPDATE outbox SET state = 'stopped' WHERE id = ?`).run(second?.id),
  );
  expect((await change('repeat', { even_off: true })).body).toEqual({ changed: 1 });
  await carafe.sender.kick();
  expect(await states()).toContain('maud a sent');
  expect(
    carafe.store.db.prepare(`SELECT count(*) FROM outbox WHERE state = 'sent'`).pluck().get(),
  ).toBe(2);
});

test.each([
  ['unsubscribed', () => event('consent_changed', 'maud@post.example', { consent: false })],
  [
    'the address was refused',
    () =>
      carafe.store.write(() =>
        carafe.tables.outbox.refuseAddress('maud@post.example', '2026-11-24T09:00:00Z', 'no'),
      ),
  ],
])('who has %s since the email was filled gets nothing', async (_, happens) => {
  const news = await byHand('on');
  await news.enter('maud', 'nora');
  expect(await states()).toEqual(['maud a ready', 'nora a ready']);
  await happens();
  await carafe.mailServer.start(0);
  carafe.sender.afresh();
  await carafe.sender.kick();
  expect(await states()).toEqual(['maud a stopped', 'nora a sent']);
});

test('an email whose cause is gone since it was filled does not go', async () => {
  const words = await template('Paid');
  await on({
    ...{ start: { kind: 'order_placed', which: 'any' } },
    steps: [send('a', words, { mail: 'service' })],
  });
  await stage.add('maud@post.example');
  await stage.order('maud@post.example', 'N1');
  await carafe.sender.kick();
  expect(await states()).toEqual(['maud a ready']);
  await event('order_cancelled', 'maud@post.example', { number: 'N1' });
  await carafe.mailServer.start(0);
  carafe.sender.afresh();
  await carafe.sender.kick();
  expect((await outbox())[0]).toMatchObject({
    state: 'stopped',
    reason: 'The order was cancelled.',
  });
});

describe('a crowd', () => {
  const NAMES = ['a', 'b', 'c', 'd'];
  beforeEach(async () => {
    await carafe.mailServer.start(0);
    await api('put', '/shops/s/mail-rules', { ...FIRST_RULES, most_an_hour: 3 });
  });

  test('of as many as the shop allows goes; of one more nothing goes before somebody has answered', async () => {
    const news = await byHand('on');
    await news.enter(...NAMES.slice(0, 3));
    expect(await mailbox()).toHaveLength(3);
    const other = await byHand('on');
    await other.enter(...NAMES.map((name) => `${name}${name}`));
    expect(await mailbox()).toHaveLength(3);
    expect((await states('?state=held')).length).toBe(4);
    const { items } = (await api('get', '/attention')).body as { items: object[] };
    expect(items).toEqual([
      {
        ...{ kind: 'crowd', shop: 's', occasion: other.id, name: 'News', people: 4, most: 3 },
        held: 4,
      },
    ]);
    await api('post', `/occasions/${other.id}/crowd`, { answer: 'send' });
    await carafe.sender.kick();
    expect(await mailbox()).toHaveLength(7);
    expect((await api('get', '/attention')).body).toEqual({ items: [] });
    // From the answer on they are counted anew.
    carafe.wait(0.5);
    await other.enter('e', 'f', 'g');
    expect(await mailbox()).toHaveLength(10);
    await other.enter('h');
    expect(await mailbox()).toHaveLength(10);
  });

  test('is asked about when people enter, though their emails come after a wait', async () => {
    const words = await template('Later');
    const wait = { id: 'w', kind: 'wait' as const, for: { n: 3, unit: 'hours' as const } };
    const id = await on({ start, steps: [wait, send('a', words)] });
    for (const name of NAMES) await agree(`${name}@post.example`);
    const people = NAMES.map((name) => carafe.tables.people.idOf('s', `${name}@post.example`));
    await api('post', `/occasions/${id}/hand`, { people, name: 'x' });
    await move(4 * 60);
    expect(await mailbox()).toEqual([]);
    expect(await states()).toEqual(NAMES.map((name) => `${name} a held`));
    await api('post', `/occasions/${id}/crowd`, { answer: 'stop' });
    expect(await states()).toEqual(NAMES.map((name) => `${name} a stopped`));
    const { occasions } = (await api('get', '/shops/s/occasions')).body as {
      occasions: { on_since: string | null }[];
    };
    expect(occasions.map(({ on_since }) => on_since)).toEqual([null]);
  });

  describe('of which many are let in by and by', () => {
    /** So many people placed an order of which the engine was not told, as after a stop. */
    async function untold(names: readonly string[]) {
      const words = await template('Thanks');
      const id = await on({
        ...{ start: { kind: 'order_placed', which: 'any' } },
        steps: [send('a', words, { mail: 'service' })],
      });
      const stopped = jest.spyOn(carafe.runner, 'heard').mockImplementation(() => undefined);
      for (const name of names) {
        await stage.add(`${name}@post.example`);
        await stage.order(`${name}@post.example`, `N-${name}`);
      }
      stopped.mockRestore();
      return id;
    }
    /** Lets them in one after the other, as the parts of a start. */
    async function parts() {
      for (let after: number | null = 0; after !== null;) {
        const answer: AdvanceAnswer = await advanceAll(carafe.store, carafe.tables, {
          ...{ do: 'everyone', shop: 's', happening: null, part: { after, most: 1 } },
          ...{
            now: Date.parse('2026-11-24T09:00:00Z'),
            mailIds: `part${after}`,
            picks: {},
            moreFollow: true,
          },
        });
        after = answer.last ?? null;
      }
      await carafe.sender.kick();
      expect(await mailbox()).toEqual([]);
    }

    test('their emails go once all were counted, also where a stop left them half counted', async () => {
      await untold(NAMES.slice(0, 3));
      await parts();
      await carafe.runner.tick();
      await carafe.sender.kick();
      expect(await mailbox()).toHaveLength(3);
    });

    test('all parts are counted together', async () => {
      await untold(NAMES);
      await parts();
      await carafe.runner.tick();
      await carafe.sender.kick();
      expect(await states()).toEqual(NAMES.map((name) => `${name} a held`));
    });

    test('a start counts them', async () => {
      await untold(NAMES);
      await carafe.runner.begin();
      await carafe.sender.kick();
      expect(await states()).toEqual(NAMES.map((name) => `${name} a held`));
    });
  });

  test('is none where the same number entered over more than an hour', async () => {
    const news = await byHand('on');
    await news.enter('a', 'b', 'c');
    carafe.wait(1);
    await news.enter('d', 'e', 'f');
    expect(await mailbox()).toHaveLength(6);
  });
});

test('a second marketing email within a minute is held, and goes when it is approved', async () => {
  await carafe.mailServer.start(0);
  await api('put', '/shops/s/mail-rules', { ...FIRST_RULES, most_a_day: 0, most_a_week: 0 });
  const [one, two] = [await byHand('on'), await byHand('on')];
  await one.enter('maud');
  await two.enter('maud');
  expect(await states()).toEqual(['maud a sent', 'maud a held']);
  expect((await outbox())[0]?.reason).toMatch(/^Another marketing email went to this address/);
  await change('approve');
  await carafe.sender.kick();
  expect(await states()).toEqual(['maud a sent', 'maud a sent']);
});

test('the cart series loses no email by a late approval', async () => {
  await carafe.mailServer.start(0);
  const [first, second] = [await template('First'), await template('Second')];
  await on({
    start: { kind: 'cart_left' },
    steps: [
      send('first', first, { mode: 'held' }),
      { id: 'w', kind: 'wait', for: { n: 1, unit: 'days' } },
      send('second', second, { mode: 'held' }),
    ],
  });
  await agree('maud@post.example');
  await stage.add('maud@post.example');
  await move(36 * 60);
  expect(await states()).toEqual(['maud first held', 'maud second held']);
  await change('approve');
  await carafe.sender.kick();
  expect((await states()).sort()).toEqual(['maud first sent', 'maud second waiting']);
  await move(25 * 60);
  expect((await states()).sort()).toEqual(['maud first sent', 'maud second sent']);
});
