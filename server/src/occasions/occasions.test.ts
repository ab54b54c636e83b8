import type {
  ListedCart,
  OutboxItem,
  OutboxMail,
  Received,
  ReceivedMail,
  ReplayAnswer,
  StoredOccasion,
  StoredTemplate,
  WalkLine,
} from '@carafe/contract';
import type { Occasion, Step } from '@carafe/core/occasion';
import { blankTemplate, composer, type Template } from '@carafe/core/template';
import { simpleParser } from 'mailparser';
import request from 'supertest';
import { asking, said } from '../testing';
import { sendingServer, type TestServer } from '../testingOccasions';
import { advanceAll, type AdvanceAnswer } from './advance';

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});
const api = asking(() => carafe);

const EMAIL = 'maud@post.example';
let count = 0;
async function event(kind: string, more: object = {}) {
  const { body } = await api('get', '/clock');
  const { now } = body as { now: string };
  const about = { id: `e${++count}`, at: now, shop: 's', email: EMAIL, kind, ...more };
  const answer = await api('post', '/events', [about]);
  expect(answer.status).toBe(200);
  await carafe.runner.idle();
}
const add = (sku: string) =>
  event('cart_added', { sku, name: `Thing ${sku}`, price: 10, quantity: 1, currency: 'EUR' });
const agree = () => event('consent_changed', { consent: true });
const move = async (minutes: number) =>
  expect((await api('post', '/clock', { minutes })).status).toBe(200);

async function template(name: string, words: string, publish = true): Promise<string> {
  const c = composer(carafe.newId);
  const made: Template = blankTemplate(
    name,
    's',
    [
      c.section('One', [
        c.text(words),
        c.button('Back to the cart', '{{ cart.recover_url }}'),
        c.button('Unsubscribe', '{{ links.unsubscribe }}'),
      ]),
    ],
    'post@s.example',
  );
  const envelope = {
    ...made.envelope,
    from_email: 'post@s.example',
    to_name: '{{ title(person.first_name) otherwise "Friend" }}',
    subject: `${name} {{ cart.count }}`,
  };
  const stored = (await api('post', '/templates', { template: { ...made, envelope } }))
    .body as StoredTemplate;
  if (publish)
    await api('post', `/templates/${stored.id}/publish`, { version: stored.version, note: '' });
  return stored.id;
}
const send = (id: string, of: string, more: object = {}): Step => ({
  ...{ id, kind: 'send', template: of, mail: 'marketing', mode: 'on', to: 'person' },
  ...more,
});
async function cartLeft(more: Partial<Occasion> = {}): Promise<Occasion> {
  const first = await template('First', 'You left {{ cart.lines[1].name }}.');
  const second = await template('Second', 'Still there: {{ cart.count }}.');
  return {
    ...{ name: 'Cart left', start: { kind: 'cart_left' }, priority: 5 },
    whom: { guests: true },
    steps: [
      { id: 'w1', kind: 'wait', for: { n: 3, unit: 'hours' } },
      send('first', first),
      { id: 'w2', kind: 'wait', for: { n: 1, unit: 'days' } },
      { id: 'g', kind: 'guard', when: 'cart is filled', otherwise: 'stop' },
      send('second', second),
    ],
    ...more,
  };
}
async function on(occasion: Occasion): Promise<StoredOccasion> {
  const made = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  const answer = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect([answer.status, said(answer)]).toEqual([200, undefined]);
  await carafe.runner.idle();
  return answer.body as StoredOccasion;
}
const outbox = async (query = '') =>
  ((await api('get', `/shops/s/outbox${query}`)).body as { mails: OutboxItem[] }).mails;
const mailbox = async () => ((await api('get', '/mailbox')).body as { mails: Received[] }).mails;
const states = async () => (await outbox()).map(({ step, state }) => `${step} ${state}`).reverse();

test('a cart that is left brings one mail, then another, each at its time and with its link home', async () => {
  await on(await cartLeft());
  await agree();
  await add('A');
  await move(3 * 60 + 59);
  expect(await outbox()).toEqual([]);
  await move(2);
  expect(await states()).toEqual(['first sent']);
  const [received] = await mailbox();
  expect(received).toMatchObject({ from: 'post@s.example', to: [EMAIL], subject: 'First 1' });
  await move(24 * 60);
  expect(await states()).toEqual(['first sent', 'second sent']);
  const [mail] = await outbox();
  expect(mail?.test_only).toBe(true);
  const read = (await api('get', `/outbox/${mail?.id ?? ''}`)).body as OutboxMail;
  expect(read.filled).toBe(true);
  expect(read.html).toContain('Still there: 1.');
  expect(read.story.map(({ text }) => text)).toContain('Only if cart is filled; else stop: met.');
  expect(read.headers).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click$/m);
});

test('what was kept when the process was killed, and not told to the engine, starts what it should, once', async () => {
  const thanks = await template('Thanks', 'Thank you for {{ order.number }}.');
  const steps = [send('a', thanks, { mail: 'service' })];
  const order: Partial<Occasion> = { name: 'Order', start: { kind: 'order_placed', which: 'any' } };
  await on({ ...(await cartLeft()), ...order, steps });
  const lines = [{ sku: 'A', name: 'A', price: 4, quantity: 1 }];
  const placed = (number: string) =>
    event('order_placed', { number, lines, currency: 'EUR', status: 'Received' });
  await placed('N-1');
  const killed = jest.spyOn(carafe.runner, 'heard').mockImplementation(() => undefined);
  await placed('N-2');
  await add('B');
  killed.mockRestore();
  await carafe.sender.kick();
  expect((await outbox()).map(({ state }) => state)).toEqual(['sent']);
  await carafe.runner.begin();
  await carafe.runner.begin();
  await carafe.sender.kick();
  const sent = await outbox();
  expect(sent.map(({ state }) => state)).toEqual(['sent', 'sent']);
  const texts = await Promise.all(
    sent.map(async ({ id }) => ((await api('get', `/outbox/${id}`)).body as OutboxMail).text),
  );
  expect(texts.filter((text) => text.includes('N-1'))).toHaveLength(1);
  expect(texts.filter((text) => text.includes('N-2'))).toHaveLength(1);
});

test('everybody is looked at in parts, each once, whoever stands at an edge', async () => {
  const start: Occasion['start'] = { kind: 'by_hand' };
  await on({ ...(await cartLeft()), name: 'Hand', start });
  const people = Array.from({ length: 7 }, (_, i) => ({
    ...{ id: `p${i}`, at: '2026-11-24T08:00:00Z', shop: 's', kind: 'viewed', sku: 'a' },
    email: `p${i}@post.example`,
  }));
  await api('post', '/events', people);
  await carafe.runner.idle();
  for (const most of [1, 3, 7, 8]) {
    const counts: number[] = [];
    for (let after: number | null = 0; after !== null;) {
      const answer: AdvanceAnswer = await advanceAll(carafe.store, carafe.tables, {
        ...{ do: 'everyone', shop: 's', happening: null, part: { after, most } },
        ...{ now: 0, mailIds: 'n', picks: {} },
      });
      counts.push(answer.people);
      after = answer.last ?? null;
    }
    expect([most, counts.reduce((sum, n) => sum + n, 0)]).toEqual([most, 7]);
    expect(Math.max(...counts)).toBe(Math.min(most, 7));
  }
});

test('of each condition the values are kept as they were when it was asked', async () => {
  const given = await cartLeft();
  const guard = {
    ...{ id: 'g', kind: 'guard' as const, otherwise: 'stop' as const },
    when: 'cart.count >= 2 and not occasion.ordered_since',
  };
  const [wait, first] = given.steps;
  await on({
    ...given,
    whom: { guests: true, where: 'cart.total >= 10' },
    steps: [wait, guard, first].flatMap((step) => step ?? []),
  });
  await agree();
  await event('cart_added', { sku: 'A', name: 'A', price: 4, quantity: 1, currency: 'EUR' });
  await move(2 * 60);
  const told = async (kind: string) => {
    const { lines } = (await api('get', `/shops/s/occasions/why?email=${EMAIL}`)).body as {
      lines: WalkLine[];
    };
    return lines.filter((line) => line.kind === kind).map(({ held, parts }) => ({ held, parts }));
  };
  expect(await told('not_entered')).toEqual([
    { held: null, parts: [{ source: 'cart total', value: '4' }] },
  ]);
  await add('B');
  await move(5 * 60);
  const asked = [
    {
      held: true,
      parts: [
        { source: 'cart count', value: '2' },
        { source: 'ordered since', value: 'no' },
      ],
    },
  ];
  expect(await told('asked')).toEqual(asked);
  // What becomes of the cart later changes nothing of what was.
  await add('C');
  await event('order_placed', { number: 'O1' });
  expect(await told('asked')).toEqual(asked);
});

test('who orders meanwhile gets nothing more, and it is said why', async () => {
  const { id } = await on(await cartLeft());
  await agree();
  await add('A');
  await move(241);
  await event('order_placed', { number: 'O1' });
  await move(2 * 24 * 60);
  expect(await states()).toEqual(['first sent']);
  const why = (await api('get', `/shops/s/occasions/why?email=${EMAIL}`)).body as {
    lines: WalkLine[];
    inside: unknown[];
  };
  expect(why.inside).toEqual([]);
  expect(why.lines[0]?.text).toBe('Ended: its cause no longer exists.');
  const [stored] = (
    (await api('get', '/shops/s/occasions')).body as { occasions: StoredOccasion[] }
  ).occasions;
  expect(stored).toMatchObject({ id, inside: 0, armed: 0 });
});

test('a mail that is held waits for approval, and is asked once more before it goes', async () => {
  const occasion = await cartLeft();
  occasion.steps = occasion.steps.map((step) =>
    step.kind === 'send' ? { ...step, mode: 'held' as const } : step,
  );
  await on(occasion);
  await agree();
  await add('A');
  await move(241);
  expect(await states()).toEqual(['first held']);
  const [held] = await outbox();
  const peek = (await api('get', `/outbox/${held?.id ?? ''}`)).body as OutboxMail;
  expect([peek.filled, peek.item.subject, peek.stopped]).toEqual([false, 'First 1', null]);
  expect((await api('get', `/outbox/${held?.id ?? ''}.eml`)).status).toBe(409);
  const approve = { to: 'approve', ids: [held?.id] };
  expect((await api('post', '/shops/s/outbox/changes', approve)).body).toEqual({ changed: 1 });
  await carafe.sender.kick();
  expect(await states()).toEqual(['first sent']);
  await move(24 * 60);
  await event('consent_changed', { consent: false });
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: { step: 'second' } });
  await carafe.sender.kick();
  expect((await outbox())[0]).toMatchObject({
    ...{ step: 'second', state: 'stopped', reason: 'Has not agreed to marketing.' },
  });
  expect(await mailbox()).toHaveLength(1);
});

test('what the person did between the making of a mail and its approval counts', async () => {
  const first = await template('After', 'Thank you.');
  const own = { lines: [{ sku: 'A', name: 'A', price: 9, quantity: 1 }], currency: 'EUR' };
  const guards = ['not occasion.ordered_since', 'not occasion.cart_changed', 'not occasion.opened'];
  for (const [i, when] of guards.entries())
    await on({
      ...{ name: `After ${i}`, start: { kind: 'order_placed', which: 'any' }, priority: 5 },
      whom: { guests: true, rest_days: 30 },
      steps: [
        send(`early_${i}`, first, { mail: 'service', mode: 'held' }),
        { id: `g_${i}`, kind: 'guard', when, otherwise: 'stop' },
        send(`late_${i}`, first, { mail: 'service', mode: 'held' }),
      ],
    });
  await agree();
  await event('order_placed', { number: 'O1', ...own });
  const late = async () =>
    (await outbox())
      .filter(({ step }) => step.startsWith('late'))
      .map(({ step, state, reason }) => `${step} ${state} ${reason ?? ''}`.trim())
      .sort();
  const stopped = async (id: number) => {
    const { id: mail } = (await outbox()).find(({ step }) => step === `late_${id}`) ?? {};
    return ((await api('get', `/outbox/${mail ?? ''}`)).body as OutboxMail).stopped;
  };
  expect(await late()).toEqual(['late_0 held', 'late_1 held', 'late_2 held']);
  expect(await Promise.all([0, 1, 2].map(stopped))).toEqual([null, null, null]);
  await move(10);
  await event('order_placed', { number: 'O2', ...own });
  await add('B');
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: { step: 'early_2' } });
  await carafe.sender.kick();
  const read = (await outbox()).find(({ step }) => step === 'early_2');
  expect(carafe.tables.outbox.opened(read?.id ?? '', '2026-11-24T09:10:00Z')).toBe(true);
  expect(await Promise.all([0, 1, 2].map(stopped))).toEqual([
    ...[
      '“Only if they have not ordered since” no longer holds. When the email was created: ordered since: no. Now: ordered since: yes.',
    ],
    ...[
      '“Only if the cart has not changed since” no longer holds. When the email was created: cart changed: no. Now: cart changed: yes.',
    ],
    ...[
      '“Only if they opened none of its emails” no longer holds. When the email was created: opened: no. Now: opened: yes.',
    ],
  ]);
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: {} });
  await carafe.sender.kick();
  expect(await late()).toEqual(
    [0, 1, 2].map((i) =>
      expect.stringMatching(new RegExp(`^late_${i} stopped “Only if .*no longer holds\\.`)),
    ) as unknown[],
  );
});

test('what is on keeps running while its draft is edited; who is inside goes by theirs to the end', async () => {
  const stored = await on(await cartLeft());
  await agree();
  await add('A');
  await move(120);
  const draft = { ...stored.occasion, steps: stored.occasion.steps.slice(0, 2) };
  const changed = (
    await api('put', `/occasions/${stored.id}`, { version: stored.version, occasion: draft })
  ).body as StoredOccasion;
  expect(changed).toMatchObject({ differs: true, published: 1, inside: 1 });
  const before = (await api('get', `/occasions/${stored.id}/publishing`)).body;
  expect(before).toEqual({ inside: [{ version: 1, people: 1 }], audience: null });
  await api('post', `/occasions/${stored.id}/publish`, { version: changed.version });
  await move(2 * 24 * 60);
  expect(await states()).toEqual(['first sent', 'second sent']);
  const stale = await api('put', `/occasions/${stored.id}`, { version: 1, occasion: draft });
  expect([stale.status, said(stale)]).toEqual([
    409,
    'The occasion was changed elsewhere in the meantime. Load it again.',
  ]);
});

test('switched off, nobody gets anything more', async () => {
  const { id } = await on(await cartLeft());
  await agree();
  await add('A');
  await move(120);
  expect(((await api('post', `/occasions/${id}/off`)).body as StoredOccasion).on_since).toBeNull();
  await move(2 * 24 * 60);
  expect(await outbox()).toEqual([]);
});

test('what is wrong with an occasion is said, and it cannot be switched on', async () => {
  const draft = await template('Never published', 'Hello', false);
  const made = (
    await api('post', '/shops/s/occasions', { ...(await cartLeft()), steps: [send('a', draft)] })
  ).body as StoredOccasion;
  const refused = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect([refused.status, said(refused)]).toEqual([
    422,
    'This cannot be switched on yet. “Never published” was never published. Publish it first.',
  ]);
  expect((await api('post', '/occasions/nowhere/publish', { version: 1 })).status).toBe(404);
});

test('links come home: clicks follow only what stood in the mail, unsubscribing takes one step', async () => {
  await on(await cartLeft());
  await agree();
  await add('A');
  await move(241);
  const [item] = await outbox();
  const eml = await api('get', `/outbox/${item?.id ?? ''}.eml`)
    .buffer(true)
    .parse((res, done) => {
      const chunks: Buffer[] = [];
      res.on('data', (chunk: Buffer) => chunks.push(chunk));
      res.on('end', () => done(null, Buffer.concat(chunks)));
    });
  const { html } = await simpleParser(eml.body as Buffer, { skipImageLinks: true });
  const links = [...String(html).matchAll(/href="http:\/\/127\.0\.0\.1:4600([^"]+)"/g)].map(
    (m) => m[1] ?? '',
  );
  const go = links.find((link) => link.startsWith('/go/')) ?? '';
  const leave = links.find((link) => link.startsWith('/mail/unsubscribe/')) ?? '';
  expect(String(html)).not.toContain(encodeURIComponent(EMAIL));
  const ask = (path: string) => request(carafe.app).get(path);
  const followed = await ask(go);
  expect([followed.status, followed.headers['location']]).toEqual([
    302,
    expect.stringMatching(/^https:\/\/s\.example\/cart\//),
  ]);
  expect((await outbox())[0]?.clicked_at).not.toBeNull();
  const { signer } = carafe.tables.people;
  const [id, signed] = [item?.id ?? '', signer.make('view', item?.id ?? '')];
  const follows = signer.make('go', id);
  expect(go.startsWith(`/go/${follows}/`)).toBe(true);
  for (const forged of [
    ...[`${go}x`, `${go}9`, `/go/${follows}`, `/go/${follows}/-1`, `/go/${follows}/length`],
    ...[`/go/${id}/0`, `/go/${id}.0`, `/go/${id}.0/0`, `/go/${follows.slice(0, -1)}/0`],
    // Whoever is given a link of a mail cannot open the mail with it, nor the other way round.
    ...[`/go/${signed}/0`, `/mail/view/${follows}`],
    ...[`/go/${signer.make('go', 'made-up')}/0`, `/go/${signer.make('go', `${id}.9`)}`],
    ...[`/mail/view/${signer.make('open', id)}`, `/go/${signer.make('kept', id)}/0`],
  ])
    expect([forged, (await ask(forged)).status]).toEqual([forged, 404]);
  const page = await ask(leave);
  expect(page.text).toContain('<button>Abmelden</button>');
  expect((await request(carafe.app).post(leave)).text).toContain('Sie sind abgemeldet');
  await carafe.runner.idle();
  await move(24 * 60);
  expect(await states()).toEqual(['first sent']);
  // A real shop's carts are told to nobody who holds a mail of somebody else.
  expect((await ask(`/shop/kept/${signed}.json`)).status).toBe(404);
  const pixel = /\/mail\/open\/[^"]+\.gif/.exec(String(html))?.[0] ?? '';
  expect((await ask(pixel)).headers['content-type']).toBe('image/gif');
  expect((await outbox())[0]?.opened_at).not.toBeNull();
  await move(200 * 24 * 60);
  expect((await ask(go)).status).toBe(410);
  expect((await ask(leave)).status).toBe(200);
});

test('an owner is told at the shop’s own address; a segment names whom it is for', async () => {
  const note = await template('Owner', 'Ordered: {{ event.order }} by {{ person.email }}');
  await api('post', '/shops/s/segments', { name: 'Buyers', formula: 'person.orders_count >= 1' });
  await on({
    ...{ name: 'Tell', start: { kind: 'order_placed', which: 'any' }, priority: 5 },
    whom: { guests: true, segment: 'Buyers' },
    steps: [
      send('owner', note, { to: 'owner', mail: 'service' }),
      send('buyer', note, { mail: 'service' }),
    ],
  });
  await add('A');
  await event('order_placed', { number: 'O7' });
  await carafe.sender.kick();
  const all = await mailbox();
  const [mail] = all.filter(({ to }) => to[0] === 'post@s.example');
  const [buyers] = all.filter(({ to }) => to[0] === 'maud@post.example');
  const theirs = (await api('get', `/mailbox/${buyers?.id ?? ''}`)).body as ReceivedMail;
  expect(theirs.headers).toMatch(/^To: Friend <maud@post\.example>\s*$/m);
  const read = (await api('get', `/mailbox/${mail?.id ?? ''}`)).body as ReceivedMail;
  expect(read.text).toContain('Ordered: O7 by maud@post.example');
  // The owner is not called by the customer’s name.
  expect(read.headers).toMatch(/^To: post@s\.example\s*$/m);
  const refused = await api('delete', '/shops/s/segments/Buyers');
  expect([refused.status, said(refused)]).toEqual([
    409,
    '“Buyers” is used by “Tell”, so it cannot be deleted.',
  ]);
});

test('a segment that somebody enters by time going by alone is seen at the next look', async () => {
  const first = await template('Quiet', 'You have {{ cart.count }}.');
  await api('post', '/shops/s/segments', {
    ...{ name: 'Quiet', formula: 'cart is filled and cart.updated_at < add_days(now, -1)' },
  });
  await on({
    ...{ name: 'Quiet ones', priority: 5, whom: { guests: true } },
    start: { kind: 'segment_changed', segment: 'Quiet', change: 'entered' },
    steps: [send('first', first)],
  });
  await agree();
  await add('A');
  await carafe.runner.lookAt('segment_changed');
  expect(await outbox()).toEqual([]);
  carafe.wait(25);
  // Nothing happened to anybody: dates of people are not what this starts by.
  await carafe.runner.lookAt('date_of_person');
  expect(await outbox()).toEqual([]);
  await carafe.runner.lookAt('segment_changed');
  await carafe.sender.kick();
  expect(await states()).toEqual(['first sent']);
  await carafe.runner.lookAt('segment_changed');
  await carafe.sender.kick();
  expect(await states()).toEqual(['first sent']);
});

test('once at a time: how many is asked before; each person once; a past time is refused', async () => {
  const news = await template('News', 'Hello');
  await agree();
  const occasion: Occasion = {
    ...{ name: 'Once', priority: 5, whom: { guests: true } },
    start: { kind: 'at_time', time: '2026-11-24T12:00', clock: 'shop' },
    steps: [send('a', news)],
  };
  const made = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  const before = (await api('get', `/occasions/${made.id}/publishing`)).body as {
    audience: object;
  };
  expect(before.audience).toEqual({
    people: 1,
    agreed: 1,
    strangers: 0,
    wall: '2026-11-24T12:00',
    clock: 'shop',
  });
  // The clock of the shop shows ten; that of somebody in Honolulu does not yet.
  const past = { ...occasion, start: { ...occasion.start, time: '2026-11-24T09:59' } };
  const over = (await api('post', '/shops/s/occasions', past)).body as StoredOccasion;
  const late = await api('post', `/occasions/${over.id}/publish`, { version: over.version });
  expect([late.status, said(late)]).toEqual([422, 'Its time has passed. Choose a later one.']);
  const none = { ...occasion, start: { ...occasion.start, time: '2026-11-31T09:00' } };
  const refused = await api('post', '/shops/s/occasions', none);
  expect([refused.status, said(refused)]).toEqual([
    400,
    expect.stringContaining('There is no such day, or no such time.'),
  ]);
  const weekly = { kind: 'repeating', every: 'week', days: [4], time: '08:00', clock: 'person' };
  const repeated = (await api('post', '/shops/s/occasions', { ...occasion, start: weekly }))
    .body as StoredOccasion;
  const first = await api('get', `/occasions/${repeated.id}/publishing`);
  expect(first.body).toMatchObject({ audience: { wall: '2026-11-26T08:00', clock: 'person' } });
  await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  await move(121);
  expect(await states()).toEqual(['a sent']);
  await move(24 * 60);
  expect(await states()).toEqual(['a sent']);
  const again = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  expect(said(again)).toBe('Its time has passed. Choose a later one.');
});

test('whom a long list and long conditions mean is counted and filled, however much they come to', async () => {
  await agree();
  const id = await template('News', 'Dear {{ person.first_name otherwise "you" }}.');
  const long = `person.email is filled and not (${Array.from({ length: 180 }, (_, i) => `person.x = ${i}`).join(' or ')})`;
  expect(long.length).toBeGreaterThan(2_500);
  await api('post', '/shops/s/segments', { name: 'Everyone', formula: long });
  const addresses = Array.from({ length: 2_000 }, (_, i) => `reader.number.${i}@post.example`);
  const made = async (whom: object) =>
    (
      await api('post', '/shops/s/occasions', {
        ...{ name: 'News', start: { kind: 'at_time', time: '2026-12-24T09:00', clock: 'shop' } },
        ...{ priority: 5, whom: { guests: true, ...whom }, steps: [send('news', id)] },
      })
    ).body as StoredOccasion;
  const whole = { where: long, segment: 'Everyone', addresses: [...addresses, EMAIL] };
  for (const [whom, people] of [
    [whole, 1],
    [{ ...whole, addresses }, 0],
    [{ ...whole, segment: undefined, without: 'Everyone' }, 0],
  ] as const) {
    const { id: occasion } = await made(whom);
    const before = await api('get', `/occasions/${occasion}/publishing`);
    const strangers = 2_000;
    expect(before.body).toMatchObject({ audience: { people, agreed: people, strangers } });
    const { sending } = (await api('get', `/occasions/${occasion}/sending`)).body as {
      sending: { template_id: string; template: Template };
    };
    expect(sending.template_id).toBe(id);
    const audience = { of: 'occasion', occasion };
    const answer = await api('post', '/shops/s/survey', { template: sending.template, audience });
    expect(answer.body).toMatchObject({ survey: { people }, next: null });
  }
});

test('an audience is whom an occasion sends to: of marketing, who agreed; one that is gone is said', async () => {
  await event('viewed', { sku: 'A' });
  const id = await template('News', 'News.');
  const asked = async (mail: string, steps?: Step[]) => {
    const occasion = {
      ...{ name: 'News', start: { kind: 'at_time', time: '2026-12-24T09:00', clock: 'shop' } },
      ...{ priority: 5, whom: { guests: true }, steps: steps ?? [send('news', id, { mail })] },
    };
    const { id: made } = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
    const { template } = (await api('get', `/templates/${id}`)).body as StoredTemplate;
    const audience = { of: 'occasion', occasion: made };
    return [made, await api('post', '/shops/s/survey', { template, audience })] as const;
  };
  expect((await asked('service'))[1].body).toMatchObject({ survey: { people: 1 } });
  expect((await asked('marketing'))[1].body).toMatchObject({ survey: { people: 0 } });
  const [empty, none] = await asked('service', []);
  expect((await api('get', `/occasions/${empty}/sending`)).body).toEqual({ sending: null });
  const gone = 'This occasion no longer exists, or it sends nothing.';
  expect([none.status, said(none)]).toEqual([422, gone]);
  const { template: any } = (await api('get', `/templates/${id}`)).body as StoredTemplate;
  const audience = { of: 'occasion', occasion: 'never' };
  const never = await api('post', '/shops/s/survey', { template: any, audience });
  expect([never.status, said(never)]).toEqual([422, gone]);
  expect((await api('get', '/occasions/never/sending')).status).toBe(404);
});

test('a replay counts what would have been, equal to an independent count; a person is walked through', async () => {
  await agree();
  await add('A');
  await move(26 * 60);
  await add('B');
  await move(26 * 60);
  const occasion = await cartLeft();
  const body = { occasions: [{ id: 'o', occasion }], mode: 'replay', days: 7 };
  const answer = (await api('post', '/shops/s/occasions/replay', body)).body as ReplayAnswer;
  // Two carts’ touches, 26 hours apart: the first mail after each, the second after none but the last; a day’s share is one.
  expect(answer.figures).toMatchObject({ people: 1, entered: 1, mails: 2, reached: 1 });
  const id = carafe.tables.people.idOf('s', EMAIL);
  const walked = (
    await api('post', '/shops/s/occasions/walk', { id: 'o', occasion, person: id, days: 7 })
  ).body as { lines: WalkLine[] };
  const asked = walked.lines.find(({ kind }) => kind === 'asked');
  expect([asked?.held, asked?.parts]).toEqual([true, []]);
  const mail = walked.lines.find(({ kind }) => kind === 'mail');
  const past = await api('post', '/shops/s/occasions/mail', {
    ...{ template: (occasion.steps[1] as { template: string }).template, person: id, at: mail?.at },
  });
  expect((past.body as { subject: string }).subject).toBe('First 1');
});

test('a guard may ask what a rule picks: as it stands when it is asked, and once more before the mail goes', async () => {
  const source = await api('post', '/sources', {
    ...{ shop: 's', name: 'Garden', kind: 'typed', target: 'catalog', formula_name: 'garden' },
  });
  const stock = (pot: boolean) =>
    api('post', `/sources/${(source.body as { id: string }).id}/typed`, {
      records: [{ sku: 'pot', name: 'The pot', price: 2, in_stock: pot }],
    });
  expect((await stock(true)).status).toBeLessThan(300);
  const rule = {
    ...{
      name: 'beside',
      label: 'Beside',
      number: 2,
      exclude: { out_of_stock: true, in_cart: true },
    },
    steps: [{ take: 2, step: { kind: 'at_random' } }],
  };
  const made = await api('post', '/shops/s/rules', rule);
  expect([made.status, said(made)]).toEqual([201, undefined]);
  const first = await template('Goes with it', 'You left {{ cart.lines[1].name }}.');
  const guard = {
    ...{ id: 'g', kind: 'guard' as const, when: 'picks.beside[1].name = "The pot"' },
    otherwise: 'stop' as const,
  };
  const occasion = {
    ...{ name: 'Cart left', start: { kind: 'cart_left' as const }, priority: 5 },
    ...{ whom: { guests: true }, steps: [guard, send('first', first, { mode: 'held' })] },
  };
  const { id } = await on(occasion);
  await agree();
  await add('A');
  await move(61);
  expect(await states()).toEqual(['first held']);
  // The replay asks the same of today's picks, and tells the value.
  const person = carafe.tables.people.idOf('s', EMAIL);
  const asked = { id, occasion, person, days: 7 };
  const { lines } = (await api('post', '/shops/s/occasions/walk', asked)).body as {
    lines: WalkLine[];
  };
  expect(lines.flatMap(({ parts = [] }) => parts).map(({ value }) => value)).toContain('“The pot”');
  // Out of stock by the time it is approved, it is picked no more, and the mail does not go.
  expect((await stock(false)).status).toBeLessThan(300);
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: {} });
  await carafe.sender.kick();
  expect(await states()).toEqual(['first stopped']);
});

test('by hand from a list: carts that are left now, each once', async () => {
  const news = await template('By hand', 'Hello');
  await agree();
  await add('A');
  await move(120);
  const { rows } = (await api('get', '/shops/s/lists/carts')).body as { rows: ListedCart[] };
  expect(rows).toEqual([
    expect.objectContaining({
      email: EMAIL,
      what: 'Thing A',
      total: 10,
      consent: true,
      last_mail: null,
    }),
  ]);
  const { id } = await on({
    ...{ name: 'Hand', start: { kind: 'by_hand' }, priority: 5, whom: { guests: true } },
    steps: [send('a', news)],
  });
  const hand = { people: [rows[0]?.person], name: 'Monday' };
  expect((await api('post', `/occasions/${id}/hand`, hand)).body).toEqual({ entered: 1, mails: 1 });
  expect((await api('post', `/occasions/${id}/hand`, hand)).body).toEqual({ entered: 0, mails: 0 });
});

test('what left a mail server’s hands or not is told as in doubt, and settled by hand', async () => {
  await on(await cartLeft());
  await agree();
  await add('A');
  await carafe.mailServer.stop();
  await move(241);
  const [waits] = await outbox();
  expect(waits?.state).toBe('ready');
  carafe.store.db.prepare(`UPDATE outbox SET state = 'sending'`).run();
  expect(carafe.tables.outbox.ofState('sending')).toHaveLength(1);
  carafe.tables.outbox.move(waits?.id ?? '', 'sending', 'in_doubt', 'Stopped.');
  expect((await api('post', `/outbox/${waits?.id ?? ''}/settle`, { as: 'sent' })).status).toBe(204);
  expect((await outbox())[0]?.state).toBe('sent');
  expect((await api('post', `/outbox/${waits?.id ?? ''}/settle`, { as: 'sent' })).status).toBe(409);
});

test('the outbox goes out as CSV, NDJSON and a ZIP of files', async () => {
  await on(await cartLeft());
  await agree();
  await add('A');
  await move(241);
  const csv = (await api('get', '/shops/s/outbox.csv')).text.split('\r\n');
  expect(csv[0]).toMatch(/^id,email,to,state,reason,subject/);
  expect(csv[1]).toContain(
    'maud@post.example,maud@post.example,sent,,First 1,Cart left,first,marketing',
  );
  const lines = await api('get', '/shops/s/outbox.ndjson')
    .buffer(true)
    .parse((res, done) => {
      let text = '';
      res.on('data', (chunk: Buffer) => (text += chunk.toString()));
      res.on('end', () => done(null, text));
    });
  expect(JSON.parse(lines.body as string)).toMatchObject({ state: 'sent', step: 'first' });
  const zip = await api('get', '/shops/s/outbox.zip')
    .buffer(true)
    .parse((res, done) => {
      const chunks: Buffer[] = [];
      res.on('data', (chunk: Buffer) => chunks.push(chunk));
      res.on('end', () => done(null, Buffer.concat(chunks)));
    });
  expect((zip.body as Buffer).subarray(0, 2).toString()).toBe('PK');
});

test('a list of addresses takes addresses alone; files of what is no search are refused in a sentence', async () => {
  const occasion = await cartLeft();
  for (const address of [
    'a@b.example\r\nBcc: x@y.example',
    'nobody',
    `${'x'.repeat(300)}@b.example`,
  ]) {
    const whom = { guests: true, addresses: [address] };
    const refused = await api('post', '/shops/s/occasions', { ...occasion, whom });
    expect([refused.status, said(refused)]).toEqual([
      400,
      expect.stringMatching(/An address (?:looks like|has at most)/),
    ]);
  }
  for (const kind of ['csv', 'ndjson', 'zip']) {
    const refused = await api('get', `/shops/s/outbox.${kind}?state=boo`);
    expect([refused.status, said(refused)]).toEqual([400, 'These outbox filters cannot be read.']);
    expect((await api('get', `/shops/nowhere/outbox.${kind}`)).status).toBe(404);
  }
});

test('the clock is moved in only be moved in test-only mode', async () => {
  const settings = carafe.tables.mailSettings.get();
  await api('put', '/mail/settings', { ...settings, test_only: false });
  const refused = await api('post', '/clock', { minutes: 60 });
  expect([refused.status, said(refused)]).toEqual([
    409,
    'The clock can only be moved in test-only mode. Otherwise people would get emails too early.',
  ]);
});
