import {
  connect as connectTo,
  createServer,
  type AddressInfo,
  type Server,
  type Socket,
} from 'node:net';
import type {
  OutboxItem,
  OutboxMail,
  OutboxSummary,
  StoredOccasion,
  StoredTemplate,
} from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';
import { asking, TEST_SHOP, testServer } from '../testing';
import { Lease } from './lease';

let carafe: Awaited<ReturnType<typeof testServer>>;
const closing: (() => Promise<unknown>)[] = [];
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(async () => {
  await carafe.runner.idle();
  await carafe.sender.stop();
  for (const close of closing.splice(0)) await close();
  carafe.store.close();
});
const api = asking(() => carafe);

/** So many mails to as many people, made and not sent. */
async function mails(
  count: number,
  words = 'Hello {{ person.email }}',
  more = {},
  created = count,
): Promise<void> {
  const c = composer(carafe.newId);
  const letter = blankTemplate(
    'Letter',
    's',
    [c.section('One', [c.text(words, more)], more)],
    'post@s.example',
  );
  const envelope = { ...letter.envelope, from_email: 'post@s.example', subject: 'Hello' };
  const stored = (await api('post', '/templates', { template: { ...letter, envelope } }))
    .body as StoredTemplate;
  await api('post', `/templates/${stored.id}/publish`, { version: stored.version });
  const occasion: Occasion = {
    ...{ name: 'Hand', start: { kind: 'by_hand' }, whom: { guests: true }, priority: 1 },
    steps: [
      {
        ...{
          id: 'a',
          kind: 'send',
          template: stored.id,
          mail: 'service',
          mode: 'on',
          to: 'person',
        },
      },
    ],
  };
  const made = (await api('post', '/shops/s/occasions', occasion)).body as StoredOccasion;
  await api('post', `/occasions/${made.id}/publish`, { version: made.version });
  const people = Array.from({ length: count }, (_, i) => ({
    ...{ id: `v${i}`, at: '2026-11-24T08:00:00Z', shop: 's', kind: 'viewed', sku: 'a' },
    email: `p${i}@post.example`,
  }));
  await api('post', '/events', people);
  const ids = people.map(({ email }) => carafe.tables.people.idOf('s', email));
  const hand = await api('post', `/occasions/${made.id}/hand`, { people: ids, name: 'now' });
  expect(hand.body).toEqual({ entered: count, mails: created });
  await carafe.sender.kick();
}

/** A mail server of one's own, that does as it is told. */
async function by(port: number): Promise<void> {
  const server = { kind: 'smtp' as const, host: '127.0.0.1', port, tls: false, user: '' };
  await api('put', '/mail/settings', {
    ...{ ...carafe.tables.mailSettings.get(), server, test_only: false },
  });
}
async function smtp(options: SMTPServerOptions): Promise<number> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    ...options,
  });
  server.on('error', () => undefined);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  closing.push(() => new Promise<void>((done) => server.close(done)));
  return (server.server.address() as AddressInfo).port;
}
const failing = (responseCode: number, message = 'No') =>
  Object.assign(new Error(message), { responseCode });
const outbox = async () =>
  ((await api('get', '/shops/s/outbox?limit=500')).body as { mails: OutboxItem[] }).mails;
const summary = async () => (await api('get', '/shops/s/outbox/summary')).body as OutboxSummary;
const counts = async () =>
  Object.fromEntries((await summary()).states.map(({ state, count }) => [state, count]));

test('an address that is refused for good bounces, and is not written to again', async () => {
  await by(
    await smtp({
      onRcptTo: (_, __, done) => done(failing(550)),
      onData: (s, _, d) => (s.resume(), s.on('end', d)),
    }),
  );
  await mails(1);
  const [mail] = await outbox();
  expect([mail?.state, mail?.reason]).toEqual([
    'bounced',
    expect.stringMatching(/does not accept the address \(550\)\. It said: “550 No”\.$/),
  ]);
  expect(carafe.tables.outbox.refusedAddress('p0@post.example')).toMatch(/550/);
});

const taking: SMTPServerOptions['onData'] = (stream, _, done) => {
  stream.resume();
  stream.on('end', () => done());
};
test.each([
  ['an address that is none', 'rcpt', '5.1.1 No such user', 'bounced', true],
  ['a mailbox that was closed', 'rcpt', '5.2.1 Closed', 'bounced', true],
  ['a full mailbox', 'rcpt', '5.2.2 Full', 'bounced', false],
  ['a user who may not send there', 'rcpt', '5.7.1 Relaying denied', 'held', false],
  ['a sender that is not let through', 'from', '5.7.1 Sender refused', 'held', false],
  ['a sender’s address that is none', 'rcpt', '5.1.8 Bad sender', 'held', false],
  ['an email that is taken for spam', 'data', '5.7.1 Spam', 'bounced', false],
  ['an address that is none, told late', 'data', '5.1.1 No such user', 'bounced', true],
] as const)(
  'of %s, whoever it was for is marked only where the address is to blame',
  async (_, at, said, state, isMarked) => {
    const no = failing(550, said);
    await by(
      await smtp({
        onMailFrom: (_from, _session, done) => done(at === 'from' ? no : null),
        onRcptTo: (_to, _session, done) => done(at === 'rcpt' ? no : null),
        onData(stream, session, done) {
          taking(stream, session, () => done(at === 'data' ? no : null));
        },
      }),
    );
    await mails(1);
    const [mail] = await outbox();
    expect([mail?.state, carafe.tables.outbox.refusedAddress('p0@post.example') !== null]).toEqual([
      state,
      isMarked,
    ]);
    if (state === 'held')
      expect(mail?.reason).toMatch(/does not accept emails from this sender \(550\)/);
  },
);

test('what was held since the sender was refused goes once it is approved', async () => {
  let isLet = false;
  await by(
    await smtp({
      onMailFrom: (_, __, done) => done(isLet ? null : failing(553, 'Not from you')),
      onData: taking,
    }),
  );
  await mails(3);
  expect(await counts()).toEqual({ held: 3 });
  // It is filled anew when it goes, and shown so.
  const [held] = await outbox();
  const read = (await api('get', `/outbox/${held?.id ?? ''}`)).body as OutboxMail;
  expect([read.filled, read.html]).toEqual([false, expect.stringContaining('Hello p')]);
  expect((await api('get', `/outbox/${held?.id ?? ''}.eml`)).status).toBe(409);
  isLet = true;
  await api('post', '/shops/s/outbox/changes', { to: 'approve', query: {} });
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 3 });
});

test('an address that was refused is written to again once somebody has its mail tried again', async () => {
  let isThere = false;
  await by(
    await smtp({
      onRcptTo: (_, __, done) => done(isThere ? null : failing(550, '5.1.1 No such user')),
      onData: taking,
    }),
  );
  await mails(1);
  isThere = true;
  // Another mail to the address is not even created.
  await mails(1, 'Again', {}, 0);
  const ended = await outbox();
  expect(ended.map(({ state, ended_by_server }) => [state, ended_by_server])).toEqual([
    ['bounced', true],
  ]);
  const again = await api('post', '/shops/s/outbox/changes', {
    ...{ to: 'try_again', ids: ended.map(({ id }) => id) },
  });
  expect(again.body).toEqual({ changed: 1 });
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 1 });
  const none = { to: 'try_again', ids: ended.map(({ id }) => id) };
  expect((await api('post', '/shops/s/outbox/changes', none)).body).toEqual({ changed: 0 });
});

test('a mail that would be cut off is stopped, with the place, and the whole ones go', async () => {
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  const list = `if(person.email = "p1@post.example", [${Array(150).fill(1).join()}], [1])`;
  await mails(3, 'Again', { loop: { list, as: 'a' } });
  expect(await counts()).toEqual({ sent: 2, stopped: 1 });
  const stopped = (await outbox()).find(({ state }) => state === 'stopped');
  expect(stopped).toMatchObject({
    email: 'p1@post.example',
    reason:
      'This email is cut off at “Again”: an email can have at most 4,000,000 characters. Show fewer members of its lists, or shorten its texts.',
  });
});

test('what a mail server cannot take now is tried again, with pauses that grow; every third comes through in the end', async () => {
  let asked = 0;
  const taken: string[] = [];
  await by(
    await smtp({
      onRcptTo: (_, __, done) => (++asked % 3 === 0 ? done(failing(451)) : done()),
      onData(stream, session, done) {
        stream.resume();
        stream.on('end', () => {
          taken.push(session.envelope.rcptTo[0]?.address ?? '');
          done();
        });
      },
    }),
  );
  await mails(9);
  expect(await counts()).toEqual({ sent: 6, ready: 3 });
  const waits = (await outbox()).filter(({ state }) => state === 'ready');
  for (const { next_at, attempts } of waits) {
    expect(attempts).toBe(1);
    expect(Date.parse(next_at)).toBeGreaterThanOrEqual(Date.parse('2026-11-24T09:01:00Z'));
  }
  for (let i = 0; i < 3; i++) {
    carafe.wait(1);
    await carafe.sender.kick();
  }
  expect(await counts()).toEqual({ sent: 9 });
  expect([...taken].sort()).toEqual(Array.from({ length: 9 }, (_, i) => `p${i}@post.example`));
});

const plain = async (
  answer: (say: (line: string) => void, line: string) => void,
): Promise<number> => {
  const server: Server = createServer((socket) => {
    socket.on('error', () => undefined);
    const say = (line: string) => void socket.write(line);
    answer(say, '');
    socket.on('data', (data) => answer(say, data.toString()));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  closing.push(() => new Promise((done) => server.close(done)));
  return (server.address() as AddressInfo).port;
};

test.each([
  ['nobody is there', () => Promise.resolve(1), /^Nothing answers at 127\.0\.0\.1:1\./],
  [
    'it greets with garbage',
    () => plain((say, line) => line === '' && say('cabbage\r\n')),
    /answers in a way that Carafe does not understand/,
  ],
  [
    'it says that it is closed',
    () => plain((say, line) => line === '' && say('421 closed\r\n')),
    /^127\.0\.0\.1/,
  ],
])(
  'where %s, the door is shut for a while: nothing is lost, and no email is hurried',
  async (_, serve, said) => {
    await by(await serve());
    await mails(3);
    const { paused, states, paused_until } = await summary();
    expect(paused).toMatch(said);
    expect(Date.parse(paused_until ?? '')).toBeGreaterThan(Date.parse('2026-11-24T09:00:00Z'));
    expect(states.map(({ state }) => state)).toEqual(['ready']);
    // Into the stand-in, once somebody says so.
    await carafe.mailServer.start(0);
    closing.push(() => carafe.mailServer.stop());
    await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), test_only: true });
    carafe.wait(1);
    await carafe.sender.kick();
    expect(await counts()).toEqual({ sent: 3 });
    expect(carafe.tables.mailbox.latest()).toHaveLength(3);
  },
);

/** A mail server that takes a whole mail and does as it is told then; tells the addresses of those that it had whole. */
async function whole(then: (nth: number, socket: Socket) => void): Promise<() => string[]> {
  const had: string[] = [];
  const server: Server = createServer((socket) => {
    socket.on('error', () => undefined);
    let body: string | null = null;
    let to = '';
    socket.write('220 hello\r\n');
    socket.on('data', (data) => {
      const said = data.toString();
      if (body === null) {
        to = /^RCPT TO:<(.*)>/im.exec(said)?.[1] ?? to;
        if (/^DATA/i.test(said)) body = '';
        socket.write(body === '' ? '354 go on\r\n' : '250 ok\r\n');
        return;
      }
      body += said;
      if (!body.endsWith('\r\n.\r\n')) return;
      body = null;
      then(had.push(to), socket);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  closing.push(() => new Promise((done) => server.close(done)));
  await by((server.address() as AddressInfo).port);
  return () => [...had].sort();
}

test('what a mail server had to its last byte, when the connection broke, is in doubt, and not sent again', async () => {
  const had = await whole((nth, socket) =>
    nth === 1 ? void socket.destroy() : void socket.write('250 taken\r\n'),
  );
  await mails(6);
  for (let i = 0; i < 3; i++) {
    carafe.wait(20);
    await carafe.sender.kick();
  }
  expect(await counts()).toEqual({ in_doubt: 1, sent: 5 });
  const [doubt] = (await outbox()).filter(({ state }) => state === 'in_doubt');
  expect(doubt?.reason).toMatch(
    /^127\.0\.0\.1:\d+ received this email but did not confirm it\. It may or may not have been sent\.$/,
  );
  expect(had()).toEqual(Array.from({ length: 6 }, (_, i) => `p${i}@post.example`));
});

test.each([
  ['sent', { sent: 3 }, 3],
  ['again', { sent: 3 }, 4],
] as const)('where the rule is “%s”, what is in doubt is settled so', async (rule, ends, taken) => {
  const had = await whole((nth, socket) =>
    nth === 1 ? void socket.destroy() : void socket.write('250 taken\r\n'),
  );
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), in_doubt: rule });
  await mails(3);
  carafe.wait(20);
  await carafe.sender.kick();
  expect(await counts()).toEqual(ends);
  expect(had()).toHaveLength(taken);
});

test('a server that never says whether it took a mail is not asked without end, whatever the rule', async () => {
  const had = await whole((_, socket) => void socket.destroy());
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), in_doubt: 'again' });
  await mails(1);
  for (let i = 0; i < 20; i++) {
    carafe.wait(20);
    await carafe.sender.kick();
  }
  expect(await counts()).toEqual({ in_doubt: 1 });
  expect(had()).toHaveLength(8);
});

test('a server that closes each connection after some mails gets all of them, each once', async () => {
  const had = await whole((nth, socket) => {
    if (nth % 3 === 0) socket.end('250 taken\r\n');
    else socket.write('250 taken\r\n');
  });
  await mails(40);
  for (let i = 0; i < 4; i++) {
    carafe.wait(5);
    await carafe.sender.kick();
  }
  expect(await counts()).toEqual({ sent: 40 });
  expect(had()).toEqual(Array.from({ length: 40 }, (_, i) => `p${i}@post.example`).sort());
});

test('a server that says in the middle that it closes shuts the door for all', async () => {
  let asked = 0;
  await by(
    await smtp({
      onRcptTo: (_, __, done) => done(++asked > 2 ? failing(421, '4.3.2 Closing') : null),
      onData: taking,
    }),
  );
  await mails(30);
  const { sent, ready } = await counts();
  expect([sent, (sent ?? 0) + (ready ?? 0)]).toEqual([2, 30]);
  expect((await summary()).paused).toMatch(
    /is closed for now \(421\)\. Try again later\. It said: “421 4\.3\.2 Closing”\.$/,
  );
  // Whom it was not spoken to about was not tried: five connections at most were in the middle of it.
  expect((await outbox()).filter(({ attempts }) => attempts > 0).length).toBeLessThanOrEqual(2 + 5);
});

test('where nothing can be written down after a mail was taken, it is in doubt, and not sent again', async () => {
  const had = await whole((_, socket) => void socket.write('250 taken\r\n'));
  carafe.store.db.exec(`
    CREATE TRIGGER full BEFORE UPDATE ON outbox WHEN OLD.state = 'sending'
    BEGIN SELECT RAISE(ABORT, 'The disk is full.'); END`);
  await mails(1);
  expect(await counts()).toEqual({ sending: 1 });
  carafe.store.db.exec('DROP TRIGGER full');
  await carafe.sender.kick();
  expect(await counts()).toEqual({ in_doubt: 1 });
  expect(had()).toEqual(['p0@post.example']);
});

test('a mail that is refused after its last byte was told so: it is not in doubt', async () => {
  await whole((_, socket) => void socket.write('554 not this one\r\n'));
  await mails(1);
  expect(await counts()).toEqual({ bounced: 1 });
});

test('however long a mail server cannot be reached, no mail is given up', async () => {
  await by(1);
  await mails(7);
  for (let i = 0; i < 30; i++) {
    carafe.wait(600);
    await carafe.sender.kick();
  }
  expect((await outbox()).map(({ state, attempts }) => [state, attempts])).toEqual(
    Array(7).fill(['ready', 0]),
  );
});

test('a door that was shut is tried at once when the settings are mended', async () => {
  await by(1);
  await mails(20);
  expect((await summary()).paused).toMatch(/^Nothing answers/);
  expect((await summary()).stays_here).toBe(false);
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  await api('put', '/mail/settings', {
    ...carafe.tables.mailSettings.get(),
    server: { kind: 'mailbox' },
  });
  await carafe.sender.kick();
  expect(await summary()).toMatchObject({ paused: null, stays_here: true });
  // Those that were in hand when it shut are tried a minute later; the others do not wait for the pause.
  expect((await counts())['sent']).toBeGreaterThanOrEqual(10);
  carafe.wait(1 / 30);
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 20 });
  // Whatever the mode, it is told of each that it went no further than the mailbox.
  expect((await outbox()).every(({ test_only }) => test_only)).toBe(true);
});

test('so many a minute, and the rest in the next', async () => {
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), per_minute: 2 });
  await mails(5);
  expect(await counts()).toEqual({ sent: 2, ready: 3 });
  carafe.wait(1 / 60);
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 4, ready: 1 });
});

test('what waits long for its turn goes with what is true then, or not at all', async () => {
  const bodies = new Map<string, string>();
  await by(
    await smtp({
      onData(stream, session, done) {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('end', () => {
          const to = session.envelope.rcptTo[0]?.address ?? '';
          bodies.set(to, Buffer.concat(parts).toString());
          done();
        });
      },
    }),
  );
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), per_minute: 1 });
  await mails(4, 'Hello {{ person.first_name otherwise "you" }}');
  expect(await counts()).toEqual({ sent: 1, ready: 3 });
  const said = (i: number, person: object) => ({
    ...{ id: `n${i}`, at: '2026-11-24T09:01:00Z', shop: 's', kind: 'viewed', sku: 'a' },
    ...{ email: `p${i}@post.example`, person },
  });
  await api('post', '/events', [said(1, { first_name: 'Ada' }), said(2, { first_name: 'Bo' })]);
  // Two minutes later it goes as it was filled; later than that it is filled anew.
  carafe.wait(2 / 60);
  await carafe.sender.kick();
  const inBase64 = (words: string) => Buffer.from(`${words}\n`).toString('base64');
  expect(bodies.get('p1@post.example')).toContain(inBase64('Hello you'));
  carafe.wait(8 / 60);
  await carafe.sender.kick();
  expect(bodies.get('p2@post.example')).toContain(inBase64('Hello Bo'));
  carafe.tables.outbox.refuseAddress('p3@post.example', '2026-11-24T09:05:00Z', 'No such box.');
  carafe.wait(8 / 60);
  await carafe.sender.kick();
  expect(bodies.has('p3@post.example')).toBe(false);
  expect(await counts()).toEqual({ sent: 3, stopped: 1 });
});

test('who is told to stop ends after the piece that is in hand, however many mails are left', async () => {
  let stopped: Promise<void> | null = null;
  await by(
    await smtp({
      onData(stream, _, done) {
        stopped ??= carafe.sender.stop();
        stream.resume();
        stream.on('end', done);
      },
    }),
  );
  await mails(450);
  await stopped;
  const { sent = 0, ready = 0, ...others } = await counts();
  expect(sent).toBe(200);
  expect([ready, others]).toEqual([250, {}]);
  // Nothing begins after that.
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent, ready });
});

test('what was stopped by hand is resumed: what was held is held again, and nothing else is woken', async () => {
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), per_minute: 2 });
  await mails(5);
  const change = (to: string) => api('post', '/shops/s/outbox/changes', { to, query: {} });
  expect((await change('stop')).body).toEqual({ changed: 3 });
  expect(await counts()).toEqual({ sent: 2, stopped: 3 });
  const [one, other] = (await outbox()).filter(({ state }) => state === 'stopped');
  await carafe.store.write(() => {
    carafe.tables.outbox.move(one?.id ?? '', 'stopped', 'held');
    carafe.tables.outbox.move(other?.id ?? '', 'stopped', 'stopped', 'A condition did not hold.');
  });
  await api('post', '/shops/s/outbox/changes', { to: 'stop', ids: [one?.id] });
  carafe.wait(1);
  expect((await change('go_on')).body).toEqual({ changed: 2 });
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 3, held: 1, stopped: 1 });
});

test('mails of a template in which an error came up are held, and go once somebody lets them', async () => {
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  await mails(2);
  const [{ occasion, template } = { occasion: '', template: '' }] = await outbox();
  const health = { at: '2026-11-24T09:00:00.000Z', people: 2, changed: 0 };
  const broken = { ...health, errors: ['A price is missing.'], held: 'A price is missing.' };
  await carafe.store.write(() =>
    carafe.tables.templateHealth.put(template, broken, 1, new Map([[7, -5]])),
  );
  expect([...(carafe.tables.templateHealth.digests(template, 1) ?? [])]).toEqual([[7, -5]]);
  expect(carafe.tables.templateHealth.digests(template, 2)).toBeNull();
  const ids = [0, 1].map((n) => carafe.tables.people.idOf('s', `p${n}@post.example`));
  await api('post', `/occasions/${occasion}/hand`, { people: ids, name: 'again' });
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 2, held: 2 });
  const held = (await outbox()).filter(({ state }) => state === 'held');
  expect(held[0]?.reason).toMatch(/^Held: an error came up .* A price is missing\.$/);
  const approve = () => api('post', '/shops/s/outbox/changes', { to: 'approve', query: {} });
  await approve();
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 2, held: 2 });
  expect((await api('post', `/templates/${template}/let-go`)).status).toBe(204);
  expect((await api('post', `/templates/${template}/let-go`)).status).toBe(409);
  await approve();
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 4 });
});

test('what is filled and not handed over yet is held with its template; what is of another goes', async () => {
  await mails(3);
  const [{ template } = { template: '' }, other] = await outbox();
  await carafe.store.write(() => {
    carafe.store.db.prepare(`UPDATE outbox SET state = 'ready'`).run();
    carafe.store.db.prepare(`UPDATE outbox SET template = 'other' WHERE id = ?`).run(other?.id);
    expect(carafe.tables.outbox.holdReady(template, 'Held: why.')).toBe(2);
  });
  expect(await counts()).toEqual({ held: 2, ready: 1 });
  expect(
    (await outbox()).filter(({ state }) => state === 'held').map(({ reason }) => reason),
  ).toEqual(['Held: why.', 'Held: why.']);
});

test('a clock that is put back after it was moved on holds up no mail', async () => {
  await carafe.mailServer.start(0);
  closing.push(() => carafe.mailServer.stop());
  await api('put', '/mail/settings', { ...carafe.tables.mailSettings.get(), per_minute: 2 });
  await api('post', '/clock', { minutes: 5 * 24 * 60 });
  await mails(2);
  expect(await counts()).toEqual({ sent: 2 });
  await api('delete', '/clock');
  await carafe.store.write(() =>
    carafe.store.db.prepare(`UPDATE outbox SET state = 'waiting', next_at = 0`).run(),
  );
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 2 });
});

test('what takes longer than the lease lasts keeps it; whoever lost it sends no more', async () => {
  const given = { store: carafe.store, lease: carafe.tables.lease };
  let now = 0;
  const real = () => now;
  const one = new Lease({ ...given, real, holder: 'one', pid: process.pid });
  const two = new Lease({ ...given, real, holder: 'two', pid: process.ppid });
  expect(await one.take()).toBe(true);
  jest.useFakeTimers();
  try {
    await one.holding(async () => {
      for (let i = 0; i < 12; i++) {
        now += 10_000;
        await jest.advanceTimersByTimeAsync(10_000);
        expect(await two.take()).toBe(false);
      }
    });
  } finally {
    jest.useRealTimers();
  }
  now += 60_000;
  expect(await two.take()).toBe(true);
  expect(await one.take()).toBe(false);
});

test('of two processes on one database, one sends', async () => {
  const given = { store: carafe.store, lease: carafe.tables.lease };
  let now = 0;
  const real = () => now;
  const one = new Lease({ ...given, real, holder: 'one', pid: process.pid });
  const two = new Lease({ ...given, real, holder: 'two', pid: process.ppid });
  expect(await one.take()).toBe(true);
  expect(await two.take()).toBe(false);
  expect(await one.take()).toBe(true);
  // A process that is gone holds nobody up.
  await one.giveBack();
  const gone = new Lease({ ...given, real, holder: 'gone', pid: 4_194_300 });
  expect(await gone.take()).toBe(true);
  expect(await two.take()).toBe(true);
  expect(await one.take()).toBe(false);
  now += 60_000;
  expect(await one.take()).toBe(true);
});

test('one connection that breaks stops nobody else’s email', async () => {
  const port = await smtp({ onData: taking });
  let isBroken = false;
  // Between Carafe and the server: the first that says whom it is from is cut off.
  const front = createServer((socket) => {
    const back = connectTo(port, '127.0.0.1');
    back.on('data', (bytes) => socket.write(bytes));
    socket.on('data', (bytes) => {
      if (!isBroken && /^MAIL FROM/i.test(bytes.toString('latin1'))) {
        isBroken = true;
        socket.destroy();
        back.destroy();
      } else back.write(bytes);
    });
    for (const [one, other] of [
      [socket, back],
      [back, socket],
    ] as const) {
      one.on('error', () => other.destroy());
      one.on('close', () => other.destroy());
    }
  });
  await new Promise<void>((done) => front.listen(0, '127.0.0.1', done));
  closing.push(() => new Promise<void>((done) => front.close(() => done())));
  await by((front.address() as AddressInfo).port);
  await mails(12);
  await carafe.sender.kick();
  expect(isBroken).toBe(true);
  expect(await counts()).toEqual({ sent: 11, ready: 1 });
  expect((await summary()).paused).toBeNull();
  carafe.wait(1);
  await carafe.sender.kick();
  expect(await counts()).toEqual({ sent: 12 });
});

test('a server that requires a login is told as that: sending pauses, and nothing is held', async () => {
  await by(
    await smtp({
      onMailFrom: (_, __, done) => done(failing(530, '5.7.0 Authentication required')),
    }),
  );
  await mails(2);
  expect(await counts()).toEqual({ ready: 2 });
  expect((await summary()).paused).toMatch(
    /requires a login\. Set the user .* It said: “530 5\.7\.0 Authentication required”\.$/,
  );
});

test('an email that is larger than the server takes bounces before it is sent, and the others go', async () => {
  const taken: string[] = [];
  await by(
    await smtp({
      size: 3_000,
      onData: (stream, session, done) => {
        taken.push(session.id);
        taking(stream, session, done);
      },
    }),
  );
  await mails(2, `{{ if(person.email = "p0@post.example", "${'long '.repeat(700)}", "short") }}`);
  const all = await outbox();
  expect(all.map(({ email, state }) => `${email.split('@')[0] ?? ''} ${state}`).sort()).toEqual([
    'p0 bounced',
    'p1 bounced',
  ]);
  expect(taken).toEqual([]);
  expect(all[0]?.reason).toMatch(/does not accept emails of this size\./);
});
