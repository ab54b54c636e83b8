import { demoTemplates } from '@carafe/demo';
import type { Express } from 'express';
import request from 'supertest';
import { testServer } from './testing';

let app: Express;
let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer({ demo: true });
  ({ app } = carafe);
}, 60_000);
const shop = 'quillmoss-gb';
const get = (path: string) => request(app).get(`/api${path}`).set('Host', '127.0.0.1');
const post = (path: string) => request(app).post(`/api${path}`).set('Host', '127.0.0.1');
const put = (path: string) => request(app).put(`/api${path}`).set('Host', '127.0.0.1');

interface Listed {
  templates: { id: string; name: string; version: number; reads: string[] }[];
}
const list = async () => ((await get('/templates')).body as Listed).templates;
const message = (answer: { body: unknown }) =>
  (answer.body as { error: { message: string } }).error.message;

afterAll(() => carafe.store.close());

describe('the demo', () => {
  test('comes in whole: two shops, 240 products each, 2,000 people, 14 templates, four rules', async () => {
    const count = (sql: string) => carafe.store.db.prepare<[], { n: number }>(sql).get()?.n;
    expect(count('SELECT COUNT(*) AS n FROM people')).toBe(2000);
    expect(
      count(
        "SELECT COUNT(*) AS n FROM entries JOIN sources ON sources.id = source WHERE target = 'catalog'",
      ),
    ).toBe(480);
    expect(
      count("SELECT COUNT(*) AS n FROM people WHERE NOT json_extract(record, '$.consent')"),
    ).toBeGreaterThan(300);
    expect((await list()).map((t) => t.reads)).toEqual([
      ['person', 'cart'],
      ['person', 'order'],
      ['person', 'catalog', 'feeds'],
      ['person', 'picks'],
      ['person', 'order', 'picks'],
      ['cart', 'picks'],
      // What occasions of the house send.
      ...[['person', 'order'], ['person', 'order'], ['person', 'order'], ['person'], []],
      ...[['person', 'picks'], ['feeds'], ['catalog']],
    ]);
    expect(carafe.tables.rules.list(shop).map(({ rule }) => rule.name)).toEqual([
      ...['after_purchase', 'beside_cart', 'due_again', 'new_for_you'],
    ]);
  });

  test('folds carts and orders that agree with their lines', () => {
    for (const { shopper } of carafe.tables.people.all(shop)) {
      for (const order of shopper.orders) {
        const sum = order.lines.reduce((a, line) => a + line.total, 0);
        expect(order.subtotal).toBeCloseTo(sum, 6);
        const due = sum - (order.discount ?? 0) + (order.shipping ?? 0);
        expect(order.total).toBeCloseTo(due, 6);
        expect(due).toBeGreaterThanOrEqual(0);
      }
    }
  });
});

describe('templates', () => {
  test('are made, saved with their version, refused when stale, deleted and brought back', async () => {
    const made = await post('/templates').send({ layout: 'cart', name: 'Mine', shop });
    expect(made.status).toBe(201);
    const { id, version, template } = made.body as {
      id: string;
      version: number;
      template: { name: string };
    };
    const saved = await put(`/templates/${id}`).send({
      version,
      template: { ...template, name: 'Mine 2' },
    });
    expect(saved.body).toMatchObject({ version: version + 1 });
    const stale = await put(`/templates/${id}`).send({ version, template });
    expect(stale.status).toBe(409);
    expect(stale.body).toMatchObject({
      current: { version: version + 1, template: { name: 'Mine 2' } },
    });
    expect(
      (await request(app).delete(`/api/templates/${id}`).set('Host', 'localhost')).status,
    ).toBe(204);
    expect((await get(`/templates/${id}`)).status).toBe(404);
    expect((await put(`/templates/${id}`).send({ version: version + 1, template })).status).toBe(
      404,
    );
    expect((await post(`/templates/${id}/restore`)).body).toMatchObject({
      template: { name: 'Mine 2' },
    });
  });

  test('that are none are refused with every place', async () => {
    const [template] = demoTemplates();
    const bad = await post('/templates').send({
      template: { ...template, version: 2, sections: 1 },
    });
    expect([bad.status, message(bad)]).toEqual([422, expect.stringContaining('of version 2')]);
    const worse = await post('/templates').send({
      template: { ...template, sections: [{ kind: 'section' }], style: {} },
    });
    expect(
      (worse.body as { error: { problems: unknown[] } }).error.problems.length,
    ).toBeGreaterThan(5);
    expect((await post('/templates').send({ layout: 'nothing', name: 'x', shop })).status).toBe(
      400,
    );
  });

  test('publish their JSON Schema', async () => {
    const { body, headers } = await get('/schema/template.json');
    expect(headers['content-type']).toContain('application/schema+json');
    const { properties, required } = body as {
      properties: object;
      required: string[];
    };
    expect(Object.keys(properties)).toEqual(expect.arrayContaining(required));
  });
});

describe('rendering', () => {
  const [template] = demoTemplates();
  const records = [
    {
      person: { first_name: 'ada' },
      shop: { name: 'House', currency: 'GBP', url: 'https://h.example' },
      cart: { total: 60, count: 1, lines: [{ name: 'Pot', price: 60, quantity: 1 }] },
    },
    {},
  ];

  test('gives a mail for each record, with trail and findings when asked', async () => {
    const { status, body } = await post('/render').send({
      template,
      records,
      trail: true,
      as_of: '2026-03-31',
      locale: 'de-DE',
    });
    // The second record has no cart to be filled from.
    expect(status).toBe(207);
    const { mails, findings } = body as {
      mails: { subject: string; html: string; text: string; trail: unknown[] }[];
      findings: unknown[];
    };
    expect(mails).toHaveLength(2);
    expect(mails[0]).toMatchObject({
      subject: 'Ada, your Pot is still here',
      text: expect.stringContaining('60,00') as string,
    });
    expect(mails[1]?.subject).toBe('Hello, your cart is still here');
    expect(mails[0]?.trail.length).toBeGreaterThan(5);
    expect(findings).toEqual([]);
  });

  test('tells what is wrong in a template and still renders the rest', async () => {
    const wrong = {
      ...template,
      envelope: { ...template?.envelope, subject: 'Hi {{ person.first_name' },
    };
    const { body } = await post('/render').send({ template: wrong, records: [{}] });
    expect(body).toMatchObject({
      findings: [{ severity: 'error', node: '', path: 'subject', column: 4 }],
    });
  });

  test('tells of a mail that is cut off where, and that the others are whole', async () => {
    const often = {
      ...template,
      sections: template?.sections.map((section) => ({
        ...section,
        loop: { list: 'person.often', as: 'one' },
      })),
    };
    const { body } = await post('/render').send({
      template: often,
      records: [{ person: { often: Array(20_001).fill(1) } }, { person: { often: [1] } }],
    });
    const { mails } = body as { mails: { cut?: { node: string; message: string } }[] };
    expect(mails[0]?.cut).toEqual({
      ...{ node: expect.any(String) as string, path: expect.any(String) as string },
      message: expect.stringMatching(
        /^This email is cut off at “.+”: an email can have at most/,
      ) as string,
    });
    expect(mails[1]).not.toHaveProperty('cut');
  });

  test('takes a stored template by its id', async () => {
    const [first] = await list();
    const { body } = await post('/render').send({
      ...{ template_id: first?.id, version: 'draft', records },
    });
    expect((body as { mails: unknown[] }).mails).toHaveLength(2);
    expect((await post('/render').send({ template_id: 'none', records })).status).toBe(404);
    expect((await post('/render').send({ records })).status).toBe(400);
  });

  test('refuses what is too much or no JSON, in a sentence', async () => {
    const many = await post('/render').send({
      template,
      records: Array.from({ length: 1001 }, () => ({})),
    });
    expect(many.status).toBe(400);
    const large = await post('/render')
      .set('Content-Type', 'application/json')
      .send(`{"a":"${'x'.repeat(11_000_000)}"}`);
    expect([large.status, message(large)]).toEqual([413, expect.stringContaining('too large')]);
    const broken = await post('/render').set('Content-Type', 'application/json').send('{"a":');
    expect([broken.status, message(broken)]).toEqual([400, expect.stringContaining('not JSON')]);
    expect((await get('/nothing')).status).toBe(404);
  });

  test('a record with hostile keys changes nothing outside itself', async () => {
    const body = JSON.stringify({ template, records: ['@'] }).replace(
      '"@"',
      '{"__proto__":{"x":1},"constructor":{"prototype":{"y":1}},"person":{"first_name":"<b>","__proto__":{"z":1}}}',
    );
    const answer = await post('/render').set('Content-Type', 'application/json').send(body);
    expect((answer.body as { mails: { html: string }[] }).mails[0]?.html).toContain(
      'Hello &lt;B&gt;',
    );
    expect([
      ({} as Record<string, unknown>)['x'],
      ({} as Record<string, unknown>)['y'],
      ({} as Record<string, unknown>)['z'],
    ]).toEqual([undefined, undefined, undefined]);
  });
});

describe('recipients', () => {
  test('are listed by page, narrowed and searched', async () => {
    const { body } = await get(`/shops/${shop}/recipients?having=cart&limit=2&offset=0`);
    expect(body).toMatchObject({
      recipients: [
        { name: 'Maud Fennimore', lines: 3 },
        { name: '', lines: 1 },
      ],
    });
    const found = await get(`/shops/${shop}/recipients?q=FENNIMORE`);
    expect((found.body as { total: number }).total).toBeGreaterThan(1);
    expect((await get('/shops/none/recipients')).status).toBe(404);
    expect((await get(`/shops/${shop}/people?ids=1,x`)).status).toBe(400);
  });

  test('have a shape with fill rates, types of imported fields among them', async () => {
    const { body } = await get(`/shops/${shop}/shape`);
    const { fields } = body as {
      fields: Record<
        string,
        {
          shape: {
            fields: Record<string, { filled: number; of: number; shape: { kind: string } }>;
          };
        }
      >;
    };
    const person = fields['person']?.shape.fields;
    expect(person?.['first_name']).toMatchObject({ of: 1250, shape: { kind: 'text' } });
    expect(person?.['first_name']?.filled).toBeLessThan(1250);
    expect(person?.['joined']?.shape.kind).toBe('date');
    expect(person?.['favourite_month']?.shape.kind).toBe('text');
    expect(fields['catalog']?.shape.fields['garden']?.shape.kind).toBe('list');
  });
});

describe('trust', () => {
  test('other hosts and other pages are not answered', async () => {
    expect((await request(app).get('/api/templates').set('Host', 'evil.example')).status).toBe(403);
    expect((await get('/templates').set('Origin', 'http://evil.example')).status).toBe(403);
    expect((await get('/templates').set('Origin', 'http://127.0.0.1')).status).toBe(200);
  });

  test('scripts run from the server’s own files only', async () => {
    const { headers } = await get('/templates');
    expect(headers['content-security-policy']).toContain("script-src 'self';");
    expect(headers['content-security-policy']).toContain("object-src 'none'");
  });

  test('with a token, nothing is answered without it', async () => {
    const guarded = await testServer({ token: 'secret' });
    const ask = (path: string) => request(guarded.app).get(path).set('Host', 'carafe.example');
    expect((await ask('/api/templates')).status).toBe(401);
    expect((await ask('/api/templates?token=wrong')).status).toBe(401);
    const let_in = await ask('/api/templates?token=secret');
    expect([let_in.status, String(let_in.headers['set-cookie'])]).toEqual([
      200,
      expect.stringContaining('HttpOnly'),
    ]);
    expect((await ask('/api/templates').set('Authorization', 'Bearer secret')).status).toBe(200);
    guarded.store.close();
  });
});
