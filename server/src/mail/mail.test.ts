import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import type { MailSettings, Received, ReceivedMail } from '@carafe/contract';
import { blankTemplate, composer } from '@carafe/core/template';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import request from 'supertest';
import { asking, said, TEST_SHOP, testServer } from '../testing';
import { sendingServer, type TestServer } from '../testingOccasions';
import { serverWay, transportFor } from './transport';

let carafe: TestServer;
sendingServer((made) => {
  carafe = made;
});

const api = asking(() => carafe);

const TO = 'designer@quillmoss.example';
function letter(more: object = {}) {
  const c = composer(carafe.newId);
  const template = blankTemplate(
    'Letter',
    's',
    [
      c.section('One', [
        c.text('Hello {{ person.first_name otherwise "you" }}, £5 & “more” – 50 %.'),
      ]),
    ],
    'post@s.example',
  );
  const envelope = {
    ...{ from_name: 'Séeds & Co', from_email: 'post@seeds.example' },
    subject: 'Für {{ person.first_name otherwise "you" }}',
    preview_text: 'Look',
  };
  return { ...template, envelope: { ...envelope, ...more } };
}
async function person(first_name = 'Zoë'): Promise<number> {
  const event = {
    ...{ id: carafe.newId(), shop: 's', email: 'zoe@post.example', kind: 'viewed', sku: 'a' },
    ...{ at: '2026-11-20T09:00:00Z', person: { first_name } },
  };
  await api('post', '/events', [event]);
  return carafe.tables.people.idOf('s', 'zoe@post.example') ?? 0;
}
/** Settings by which mails go to people. */
const real = (): MailSettings => ({ ...carafe.tables.mailSettings.get(), test_only: false });
const received = async () => ((await api('get', '/mailbox')).body as { mails: Received[] }).mails;

test('a mail to oneself arrives as the recipient’s would, to the letter', async () => {
  const template = letter();
  const id = await person();
  const sent = await api('post', '/mail/tests', { template, person: id, to: TO });
  expect([sent.status, sent.body]).toEqual([
    200,
    expect.objectContaining({ to: TO, mailbox: true }),
  ]);
  const [mail] = await received();
  expect(mail).toMatchObject({ from: 'post@seeds.example', to: [TO], subject: 'Für Zoë' });
  const { body } = await api('get', `/shops/s/people?ids=${id}`);
  const { people } = body as { people: { data: { person: object } }[] };
  const filled = await api('post', '/render', {
    template,
    records: [{ person: people[0]?.data.person, shop: TEST_SHOP }],
  });
  const { mails } = filled.body as { mails: { html: string; text: string }[] };
  const source = await request(carafe.app)
    .get(`/api/mailbox/${mail?.id ?? ''}.eml`)
    .set('Host', '127.0.0.1')
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => void parts.push(part));
      response.on('end', () => done(null, Buffer.concat(parts)));
    });
  const parsed = await simpleParser(source.body as Buffer);
  expect(parsed.html).toBe(mails[0]?.html);
  expect(parsed.text).toBe(mails[0]?.text);
  expect(parsed.from?.text).toBe('"Séeds & Co" <post@seeds.example>');
  expect(parsed.messageId).toBe((sent.body as { message_id: string }).message_id);
  const read = (await api('get', `/mailbox/${mail?.id ?? ''}`)).body as ReceivedMail;
  expect(read.html).toBe(mails[0]?.html);
  expect(read.headers).toContain('Content-Type: multipart/alternative');
});

test('the recipient’s name stands before the address, where the envelope has one and it is not blank', async () => {
  const template = letter({ to_name: '{{ person.first_name }}, {{ person.city }}' });
  const to = async (first_name: string, more: object = {}) => {
    const asked = { template: { ...template, ...more }, person: await person(first_name), to: TO };
    expect((await api('post', '/mail/tests', asked)).status).toBe(200);
    const [mail] = await received();
    const { headers } = (await api('get', `/mailbox/${mail?.id ?? ''}`)).body as ReceivedMail;
    return /^To: .*$/m.exec(headers)?.[0].trim();
  };
  expect(await to('Maud')).toBe(`To: "Maud," <${TO}>`);
  expect(await to('Maud', letter())).toBe(`To: ${TO}`);
});

test('a marked one says so in its subject; a header cannot be broken by a name', async () => {
  const id = await person('Zo\r\nBcc: all@x.example');
  await api('post', '/mail/tests', { template: letter(), person: id, to: TO, marked: true });
  const [mail] = await received();
  expect(mail?.subject).toMatch(/^Test: Für Zo/);
  expect(mail?.to).toEqual([TO]);
  const read = (await api('get', `/mailbox/${mail?.id ?? ''}`)).body as ReceivedMail;
  expect(read.headers).not.toMatch(/^Bcc:/m);
});

test('tests go nowhere but to the addresses of the settings', async () => {
  const id = await person();
  const asked = { template: letter(), person: id, to: 'boss@elsewhere.example' };
  const refused = await api('post', '/mail/tests', asked);
  expect([refused.status, said(refused)]).toEqual([
    403,
    'Tests are only sent to the addresses in the email settings, and boss@elsewhere.example is not one of them. Add it there first.',
  ]);
  for (const to of ['a@b\r\nRCPT TO:<x@y>', 'no address', '', `${'a'.repeat(400)}@x.example`])
    expect((await api('post', '/mail/tests', { ...asked, to })).status).toBe(400);
  const settings: MailSettings = {
    ...carafe.tables.mailSettings.get(),
    test_addresses: ['boss@elsewhere.example'],
  };
  expect((await api('put', '/mail/settings', settings)).status).toBe(200);
  expect((await api('post', '/mail/tests', asked)).status).toBe(200);
  expect(await received()).toHaveLength(1);
  expect((await api('delete', '/mailbox')).status).toBe(204);
  expect(await received()).toEqual([]);
});

test('mails go to people only while the clock is at the real time', async () => {
  expect((await api('post', '/clock', { minutes: 60 })).status).toBe(200);
  const refused = await api('put', '/mail/settings', real());
  expect([refused.status, said(refused)]).toEqual([
    409,
    'The clock is ahead of the real time, so people would get emails too early. Return to the real time first: Ctrl K, “Move the clock”.',
  ]);
  expect((await api('delete', '/clock')).status).toBe(200);
  expect((await api('put', '/mail/settings', real())).status).toBe(200);
  const { body } = await api('get', '/mail/settings');
  expect(body).toMatchObject({
    ...{ settings: { test_only: false }, password: false, dkim_key: false },
    self: 'http://127.0.0.1:4600',
  });
});

test('a domain and a selector of DKIM that cannot be are told', async () => {
  for (const [dkim, why] of [
    [{ domain: '', selector: 'a' }, /Say the domain that emails are signed for\./],
    [{ domain: 'a b', selector: 'a' }, /A domain is letters, digits, dots and dashes\./],
    [{ domain: 'a.example', selector: '' }, /Say the selector/],
    [{ domain: 'a.example', selector: 'a\r\nb' }, /A selector is letters/],
  ] as const) {
    const refused = await api('put', '/mail/settings', { ...real(), dkim });
    expect([refused.status, said(refused)]).toEqual([400, expect.stringMatching(why)]);
  }
});

test('a mail without a sender is not sent, and says where one is written', async () => {
  const id = await person();
  const without = { template: letter({ from_email: '' }), person: id, to: TO };
  const refused = await api('post', '/mail/tests', without);
  expect([refused.status, said(refused)]).toEqual([
    422,
    'This template has no sender’s address. Write one in the envelope: post@shop.example.',
  ]);
  const wrong = { template: letter({ from_email: 'the seed house' }), person: id, to: TO };
  expect(said(await api('post', '/mail/tests', wrong))).toMatch(
    /^“the seed house” is not a valid sender address/,
  );
  expect(await received()).toEqual([]);
});

test('who gets no mail, and who is gone, get no test', async () => {
  const id = await person();
  const held = { template: letter({ only_if: 'person.consent' }), person: id, to: TO };
  expect(said(await api('post', '/mail/tests', held))).toMatch(/^This recipient gets no email/);
  const gone = { template: letter(), person: 9_999, to: TO };
  expect((await api('post', '/mail/tests', gone)).status).toBe(404);
  expect(await received()).toEqual([]);
});

test('a mail that would be cut off is not sent as a test, and says where it stops', async () => {
  const c = composer(carafe.newId);
  const list = `[${Array(150).fill(1).join()}]`;
  const often = c.section('Often', [c.heading('Again', { loop: { list, as: 'b' } })], {
    loop: { list, as: 'a' },
  });
  const template = { ...letter(), sections: [often] };
  const id = await person();
  const refused = await api('post', '/mail/tests', { template, person: id, to: TO });
  expect([refused.status, said(refused)]).toEqual([
    422,
    'This email is cut off at “Again”: an email can have at most 4,000,000 characters. Show fewer members of its lists, or shorten its texts.',
  ]);
  expect(await received()).toEqual([]);
  const looked = await api('post', '/shops/s/filled', { template, person: id });
  expect((looked.body as { cut: string }).cut).toBe(said(refused));
  const whole = await api('post', '/shops/s/filled', { template: letter(), person: id });
  expect((whole.body as { cut: string | null }).cut).toBeNull();
});

describe('a mail server of one’s own', () => {
  let server: Server;
  const open = new Set<Socket>();
  /** A server that says `greeting`, then answers each line it gets by `answer`. */
  async function standing(greeting: string, answer: (line: string) => string): Promise<number> {
    server = createServer((socket) => {
      open.add(socket);
      socket.on('error', () => undefined);
      socket.write(greeting);
      socket.on('data', (data) => socket.write(answer(data.toString())));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    return (server.address() as AddressInfo).port;
  }
  afterEach(async () => {
    for (const socket of open) socket.destroy();
    open.clear();
    if (server?.listening) await new Promise((done) => server.close(done));
  });
  const tried = async (port: number, more: object = {}) => {
    const smtp = { kind: 'smtp', host: '127.0.0.1', port, tls: false, user: '', ...more };
    const body = { ...real(), server: smtp };
    return (await api('post', '/mail/try', body)).body as { ok: boolean; message: string };
  };
  const polite = (line: string) =>
    /^EHLO/i.test(line) ? '250 hello\r\n' : /^QUIT/i.test(line) ? '221 bye\r\n' : '250 ok\r\n';

  test('that lets Carafe in is told so, and one that is not there in words', async () => {
    const port = await standing('220 here\r\n', polite);
    expect(await tried(port)).toEqual({
      ok: true,
      message: `127.0.0.1:${port} answers and accepts the login.`,
    });
    expect(await tried(1)).toEqual({
      ok: false,
      message: 'Nothing answers at 127.0.0.1:1. Check the host and the port.',
    });
  });

  test('that greets with garbage, or refuses, is told without its own words', async () => {
    const garbage = await standing('HTTP/1.1 400 Bad Request\r\n', () => 'nonsense\r\n');
    const { ok, message } = await tried(garbage);
    expect(ok).toBe(false);
    expect(message).not.toMatch(/Bad Request|nonsense|Error|undefined/);
  });

  test('that asks for a password where none is known says where to give it', async () => {
    const { ok, message } = await tried(2525, { user: 'carafe' });
    expect([ok, message]).toEqual([
      false,
      expect.stringMatching(/^The mail server asks for a password. Set CARAFE_SMTP_PASSWORD/),
    ]);
    const { body } = await api('get', '/mail/settings');
    expect((body as { password: boolean }).password).toBe(false);
  });

  test('that does not accept the address leaves nothing sent, and says so', async () => {
    const port = await standing('220 here\r\n', (line) =>
      /^RCPT/i.test(line) ? '550 no such user here\r\n' : polite(line),
    );
    const smtp = { kind: 'smtp' as const, host: '127.0.0.1', port, tls: false, user: '' };
    await api('put', '/mail/settings', { ...real(), server: smtp });
    const id = await person();
    const refused = await api('post', '/mail/tests', { template: letter(), person: id, to: TO });
    expect([refused.status, said(refused)]).toEqual([
      502,
      `127.0.0.1:${port} does not accept the address (550). It said: “550 no such user here”.`,
    ]);
  });
});

test('a test shows the picks as they are now, not as they were when they were made first', async () => {
  const source = await api('post', '/sources', {
    ...{ shop: 's', name: 'Garden', kind: 'typed', target: 'catalog', formula_name: 'garden' },
  });
  const records = ['pot', 'feed'].map((sku) => ({ sku, name: `The ${sku}`, price: 2 }));
  await api('post', `/sources/${(source.body as { id: string }).id}/typed`, { records });
  await api('post', '/shops/s/rules', {
    ...{ name: 'best', label: 'Best', number: 1 },
    steps: [{ take: 1, step: { kind: 'best_sellers', days: 90, by: 'units' } }],
    exclude: { out_of_stock: true, in_cart: true },
  });
  const id = await person();
  const c = composer(carafe.newId);
  const shown = c.text('Best: {{ first(picks.best).name otherwise "nothing" }}');
  const template = { ...letter(), sections: [c.section('One', [shown])] };
  const sold = (sku: string, quantity: number) =>
    api('post', '/events', [
      {
        ...{ id: carafe.newId(), shop: 's', email: `${sku}@post.example`, kind: 'order_placed' },
        ...{ number: carafe.newId(), at: '2026-11-20T09:00:00Z', currency: 'EUR' },
        lines: [{ sku, name: sku, price: 2, quantity }],
      },
    ]);
  const best = async () => {
    await api('post', '/mail/tests', { template, person: id, to: TO });
    const [mail] = await received();
    const read = (await api('get', `/mailbox/${mail?.id ?? ''}`)).body as ReceivedMail;
    await api('delete', '/mailbox');
    return /Best: (.*)/.exec(read.text)?.[1];
  };
  await sold('pot', 1);
  expect(await best()).toBe('The pot');
  await sold('feed', 5);
  expect(await best()).toBe('The feed');
});

test('the password goes to the host that it is for, and to no other', async () => {
  const asked = async (host: string) => {
    const server = { kind: 'smtp' as const, host, port: 1, tls: true, user: 'post' };
    const body = { ...carafe.tables.mailSettings.get(), server, test_only: false };
    return (await api('post', '/mail/try', body)).body as { ok: boolean; message: string };
  };
  carafe.store.close();
  carafe = await testServer({ mailPassword: 'x', mailPasswordHost: 'smtp.shop.example' });
  expect((await asked('evil.example')).message).toMatch(
    /^The password is for smtp\.shop\.example and is not sent to evil\.example\./,
  );
  carafe.store.close();
  carafe = await testServer({ mailPassword: 'x' });
  expect((await asked('smtp.shop.example')).message).toMatch(/Set CARAFE_SMTP_PASSWORD_HOST to/);
});

test('the password is not said before the connection is encrypted', async () => {
  const heard: string[] = [];
  const server = createServer((socket) => {
    socket.write('220 here\r\n');
    socket.on('data', (bytes) => {
      heard.push(bytes.toString());
      socket.write(
        /^EHLO/.test(bytes.toString()) ? '250-here\r\n250 AUTH PLAIN\r\n' : '502 no\r\n',
      );
    });
    socket.on('error', () => undefined);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  const way = serverWay(
    { kind: 'smtp', host: '127.0.0.1', port, tls: false, user: 'post' },
    'secret',
    null,
  );
  // As if it were another machine.
  const transport = createTransport(transportFor({ ...way, onlyEncrypted: true }));
  await expect(transport.verify()).rejects.toThrow();
  transport.close();
  server.close();
  expect(
    serverWay({ kind: 'smtp', host: 'a.example', port, tls: false, user: 'u' }, 'p', null),
  ).toMatchObject({ onlyEncrypted: true });
  expect(heard.join('')).not.toMatch(/AUTH/);
});
