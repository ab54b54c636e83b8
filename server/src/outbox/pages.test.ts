import request from 'supertest';
import { EventsService } from '../events/service';
import { blankTemplate, HOUSE_STYLE } from '@carafe/core/template';
import { TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer({ token: 'secret' });
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const ask = (path: string) => request(carafe.app).get(path).set('Host', 'letters.example');
const CUT = '<h1>This link does not work</h1>';

test('whoever follows a link that was cut anywhere sees a page, never the tool or a program’s words', async () => {
  const token = carafe.tables.people.tokens.make({ shop: 's', email: 'maud@post.example' });
  for (const [path, status] of [
    ...[
      ['/mail/unsubscribe/%', 400],
      ['/mail/view/%E0', 400],
      ['/go/%/1', 400],
    ],
    ...['/mail', '/mail/', '/mail/unsubscribe', '/mail/preferences/', '/mail/view/', '/go'].map(
      (cut) => [cut, 404] as const,
    ),
    [`/mail/unsubscribe/${token.slice(0, -3)}`, 404],
    [`/mail/unsubscribe/${token}/more`, 404],
  ] as [string, number][]) {
    const { status: is, text, headers } = await ask(path);
    expect([path, is, text.includes(CUT)]).toEqual([path, status, true]);
    expect(headers['content-security-policy']).toContain("default-src 'none'");
  }
  expect((await ask(`/mail/unsubscribe/${token}`)).text).toContain('<h1>');
  expect((await ask(`/mail/unsubscribe/${token}`)).text).not.toContain(CUT);
});

test('what fails on the server is told to whoever unsubscribes in a page, with a status that mail programs see', async () => {
  const token = carafe.tables.people.tokens.make({ shop: 's', email: 'maud@post.example' });
  const failing = jest
    .spyOn(EventsService.prototype, 'take')
    .mockRejectedValue(new Error('SQLITE_FULL: database or disk is full'));
  const { status, text } = await request(carafe.app)
    .post(`/mail/unsubscribe/${token}`)
    .set('Host', 'letters.example')
    .type('form')
    .send({ 'List-Unsubscribe': 'One-Click' });
  failing.mockRestore();
  expect(status).toBe(500);
  expect(text).toContain('<h1>Something went wrong</h1>');
  expect(text).not.toContain('SQLITE');
});

test('a form that is too large is told in a page', async () => {
  const token = carafe.tables.people.tokens.make({ shop: 's', email: 'maud@post.example' });
  const { status, text } = await request(carafe.app)
    .post(`/mail/preferences/${token}`)
    .set('Host', 'letters.example')
    .type('form')
    .send({ letters: 'x'.repeat(20_000) });
  expect([status, text.includes('<h1>')]).toEqual([413, true]);
});

test('pages are in the house style of the shop’s mails; what is no style of ours is not written into them', async () => {
  const token = carafe.tables.people.tokens.make({ shop: 's', email: 'maud@post.example' });
  const shown = async () => (await ask(`/mail/preferences/${token}`)).text;
  expect(await shown()).toContain(`background:${HOUSE_STYLE.primary}`);
  const template = blankTemplate('News', 's', [], 'post@s.example');
  const style = { ...HOUSE_STYLE, primary: '#7b1e3a', heading_font: 'Palatino, serif', radius: 9 };
  carafe.tables.templates.insert('t', { ...template, style }, '2026-11-24T09:00:00.000Z');
  const page = await shown();
  for (const part of ['background:#7b1e3a', 'Palatino, serif', 'border-radius:9px'])
    expect(page).toContain(part);
  const hostile = { ...style, primary: 'red}</style><script>alert(1)</script>' };
  carafe.store.db
    .prepare(`UPDATE templates SET document = json_set(document, '$.style', json(?))`)
    .run(JSON.stringify(hostile));
  expect(await shown()).not.toContain('script');
  expect(await shown()).toContain(`background:${HOUSE_STYLE.primary}`);
});
