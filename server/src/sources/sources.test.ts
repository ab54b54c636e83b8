import type { ImportLook, ImportSummary, SourceSummary } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';
import type { Express } from 'express';
import request from 'supertest';
import { testServer } from '../testing';

let app: Express;
let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  ({ app } = carafe);
  carafe.tables.shops.insert({
    id: 's',
    name: 'S',
    url: 'https://s.example',
    address: '',
    logo: '',
    currency: 'EUR',
    timezone: 'Europe/Berlin',
    locale: 'de-DE',
  });
});
afterAll(() => carafe.store.close());

const api = {
  get: (path: string) => request(app).get(`/api${path}`).set('Host', '127.0.0.1'),
  post: (path: string) => request(app).post(`/api${path}`).set('Host', '127.0.0.1'),
  patch: (path: string) => request(app).patch(`/api${path}`).set('Host', '127.0.0.1'),
  remove: (path: string) => request(app).delete(`/api${path}`).set('Host', '127.0.0.1'),
};
const message = (answer: { body: unknown }) =>
  (answer.body as { error: { message: string } }).error.message;

let named = 0;
async function newSource(target: string, more: object = {}): Promise<string> {
  const formula_name = `${target}${++named}`;
  const made = await api
    .post('/sources')
    .send({ shop: 's', name: formula_name, kind: 'file', target, formula_name, ...more });
  expect(made.status).toBe(201);
  return (made.body as SourceSummary).id;
}
async function upload(source: string, body: string | Buffer): Promise<ImportLook> {
  const answer = await api
    .post(`/sources/${source}/file?name=file.csv`)
    .set('content-type', 'application/octet-stream')
    .send(body);
  expect(answer.status).toBe(201);
  return answer.body as ImportLook;
}
async function check(
  look: ImportLook,
  mode = 'whole',
  settings: unknown = look.settings,
  more: object = {},
): Promise<ImportSummary> {
  const asked = { settings, mode: mode as 'whole', ...more };
  await (
    await carafe.imports.check(look.import.id, asked)
  ).done;
  return (await api.get(`/imports/${look.import.id}`)).body as ImportSummary;
}
const apply = async (look: ImportLook) =>
  (await api.post(`/imports/${look.import.id}/apply`)).body as ImportSummary;
async function take(source: string, body: string, mode = 'whole'): Promise<ImportSummary> {
  const look = await upload(source, body);
  await check(look, mode);
  return apply(look);
}
interface Page {
  total: number;
  rows: { key: string; record: Record<string, unknown> }[];
}
const rows = async (source: string, query = '') =>
  (await api.get(`/sources/${source}/rows?${query}`)).body as Page;

const GERMAN = [
  'Artikel-Kennung;Bezeichnung;VK-Preis;Lager;Aussaat ab',
  'A-1;Fingerhut;2,95;12;1.3.2026',
  'A-2;Mohn;1.003,50;0;15.4.2026',
  'A-3;Kerbel;teuer;4;1.5.2026',
].join('\r\n');

describe('a file', () => {
  test('is looked at, corrected, checked, taken in part and whole, and gone back from', async () => {
    const source = await newSource('catalog');
    const look = await upload(source, GERMAN);
    expect(look.columns).toHaveLength(5);
    const settings = look.settings as FileSettings;
    expect(settings).toMatchObject({ format: 'table', dialect: { delimiter: ';' } });
    settings.mapping.columns = settings.mapping.columns.map((c) =>
      c.column === 'Artikel-Kennung' ? { ...c, to: 'sku', reading: { kind: 'text' } } : c,
    );
    const checked = await check(look, 'whole', settings);
    expect(checked).toMatchObject({ state: 'checked', counts: { read: 3, new: 2, rejected: 1 } });
    // Nothing is in until somebody says so.
    expect((await rows(source)).total).toBe(0);
    const rejected = await api.get(`/imports/${look.import.id}/rows?outcome=rejected`);
    expect(rejected.body).toMatchObject({
      rows: [{ line: 4, key: 'A-3', problems: [{ column: 'VK-Preis' }] }],
    });
    const csv = await api.get(`/imports/${look.import.id}/rejected.csv`);
    expect(csv.text).toContain('Why it was not imported');
    expect(csv.text).toContain('“teuer” is not a number such as 12,50.');
    expect(await apply(look)).toMatchObject({ state: 'applied', undoable: true });
    expect((await rows(source)).rows[1]).toMatchObject({
      key: 'A-2',
      record: { price: 1003.5, in_stock: false, aussaat_ab: { date: '2026-04-15' } },
    });

    const part = await upload(
      source,
      GERMAN.split('\r\n').slice(0, 2).join('\n').replace('2,95', '3,10') +
        '\nA-9;Salbei;2,00;1;1.3.2026',
    );
    expect(await check(part, 'part')).toMatchObject({
      counts: { new: 1, changed: 1, gone: 0, unchanged: 0 },
    });
    const changed = await api.get(`/imports/${part.import.id}/rows?outcome=changed`);
    expect(changed.body).toMatchObject({
      rows: [{ before: { price: 2.95 }, record: { price: 3.1 } }],
    });
    await apply(part);
    expect((await rows(source)).rows.map((r) => r.record['price'])).toEqual([3.1, 1003.5, 2]);

    const whole = await upload(source, GERMAN.split('\r\n').slice(0, 2).join('\n'));
    expect(await check(whole)).toMatchObject({ counts: { changed: 1, gone: 2 } });
    const gone = await api.get(`/imports/${whole.import.id}/rows?outcome=gone`);
    expect((gone.body as { rows: { key: string }[] }).rows.map((r) => r.key)).toEqual([
      'A-2',
      'A-9',
    ]);
    await apply(whole);
    expect((await rows(source)).total).toBe(1);

    const back = await api.post(`/imports/${whole.import.id}/undo`);
    expect(back.body).toMatchObject({ state: 'undone' });
    expect((await rows(source)).rows.map((r) => [r.key, r.record['price']])).toEqual([
      ['A-1', 3.1],
      ['A-2', 1003.5],
      ['A-9', 2],
    ]);
    expect((await api.post(`/imports/${whole.import.id}/undo`)).status).toBe(409);
  });

  test('that was checked before another was taken is not taken on top of it', async () => {
    const source = await newSource('coupons');
    const [a, b] = [
      await upload(source, 'code,policy\nA,x'),
      await upload(source, 'code,policy\nB,x'),
    ];
    await check(a);
    await check(b);
    await apply(b);
    carafe.store.db
      .prepare("UPDATE imports SET made_at = '2020-01-01' WHERE id = ?")
      .run(a.import.id);
    const stale = await api.post(`/imports/${a.import.id}/apply`);
    expect([stale.status, message(stale)]).toEqual([
      409,
      expect.stringContaining('Check it again'),
    ]);
  });

  test('holds each key once; the second is refused with the place of the first', async () => {
    const source = await newSource('coupons');
    const look = await upload(source, 'code,policy\nA,x\nB,x\nA,y');
    expect(await check(look)).toMatchObject({ counts: { new: 2, rejected: 1 } });
    const found = await api.get(`/imports/${look.import.id}/rows?outcome=rejected`);
    expect(JSON.stringify(found.body)).toContain('is already on line 2');
  });

  test.each([
    ['is empty', '', /empty/],
    ['ends inside a quote', 'sku,name\nA,"Fing', /quote is opened and never closed/],
    ['has a header twice', 'sku,sku\nA,B', /Two columns are called/],
    [
      'is XML with entities',
      '<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><x>&a;</x>',
      /DTD or entities/,
    ],
    [
      'is nested too deep',
      `${'['.repeat(10_000)}${']'.repeat(10_000)}`,
      /nested more than 100 levels deep/,
    ],
    ['is a web page', '<!doctype html><p>Hello', /web page, not a feed/],
  ])('that %s is told in a sentence, and what was there stands', async (_what, body, says) => {
    const source = await newSource('catalog');
    await take(source, 'sku,name\nA,Aster');
    const look = await upload(source, body);
    expect(look.problem).toMatch(says);
    expect((await rows(source)).total).toBe(1);
  });

  test('with an endless cell is refused while it is checked, though its beginning could be read', async () => {
    const source = await newSource('catalog');
    const look = await upload(
      source,
      `sku,name\n${`A,${'b'.repeat(100)}\n`.repeat(12_000)}C,"${'x'.repeat(5_000_000)}`,
    );
    const failed = await check(look);
    expect(failed).toMatchObject({ state: 'failed' });
    expect(failed.message).toMatch(/longer than 4 MB|never closed/);
  });

  test('in UTF-16 with NUL bytes, mixed line ends and a row that is cut off is read as far as it goes', async () => {
    const source = await newSource('catalog');
    const text = '\uFEFFsku;name;price\r\nA;Aster;1,50\nB;Be\0t;2\rC;Cosmos\nD;Dill;3;4\n';
    const look = await upload(source, Buffer.from(text, 'utf16le'));
    expect(look.settings).toMatchObject({ encoding: 'utf-16le' });
    expect(await check(look)).toMatchObject({ counts: { read: 4, new: 1, rejected: 3 } });
  });

  test('whose row cannot be read leaves what was there of it', async () => {
    const source = await newSource('catalog');
    await take(source, 'sku,name,price\nA,Aster,1\nB,Beet,2\nC,Cosmos,3');
    const look = await upload(source, 'sku,name,price\n A ,Aster,dear\nB,Beet,5');
    expect(await check(look)).toMatchObject({ counts: { rejected: 1, changed: 1, gone: 1 } });
    const gone = await api.get(`/imports/${look.import.id}/rows?outcome=gone`);
    expect(gone.body).toMatchObject({ rows: [{ key: 'C' }] });
    await apply(look);
    expect((await rows(source)).rows.map((r) => [r.key, r.record['price']])).toEqual([
      ['A', 1],
      ['B', 5],
    ]);
  });

  test('is taken once, however often that is asked', async () => {
    const source = await newSource('catalog');
    await take(source, 'sku,name\nA,Aster');
    const look = await upload(source, 'sku,name\nA,Anemone\nB,\n');
    await check(look);
    const both = await Promise.all([0, 1].map(() => api.post(`/imports/${look.import.id}/apply`)));
    expect(both.map((answer) => answer.status).sort()).toEqual([200, 409]);
    expect((await api.post(`/imports/${look.import.id}/undo`)).status).toBe(200);
    expect((await rows(source)).rows[0]?.record['name']).toBe('Aster');
  });

  test('that was thrown away is told to be gone', async () => {
    const source = await newSource('coupons');
    const look = await upload(source, 'code,policy\nA,x');
    expect((await api.remove(`/imports/${look.import.id}`)).status).toBe(204);
    for (const answer of [
      await api.get(`/imports/${look.import.id}/look`),
      await api.post(`/imports/${look.import.id}/look`).send({ settings: {} }),
    ])
      expect([answer.status, message(answer)]).toEqual([
        410,
        expect.stringContaining('no longer kept'),
      ]);
    expect((await api.get(`/imports/${look.import.id}/rows?outcome=new`)).status).toBe(410);
    expect((await api.get('/imports/none')).status).toBe(404);
  });

  test('can be stopped while it is checked', async () => {
    const source = await newSource('catalog');
    const look = await upload(
      source,
      `sku,name\n${Array.from({ length: 50_000 }, (_, i) => `A${i},b`).join('\n')}`,
    );
    const { done } = await carafe.imports.check(look.import.id, {
      settings: look.settings,
      mode: 'whole',
    });
    await api.post(`/imports/${look.import.id}/stop`);
    expect(await done).toMatchObject({ state: 'stopped' });
    expect((await api.post(`/imports/${look.import.id}/apply`)).status).toBe(409);
  });
});

describe('what is in a source', () => {
  let source: string;
  beforeAll(async () => {
    source = await newSource('catalog', { formula_name: 'herbs' });
    const lines = Array.from(
      { length: 60 },
      (_, i) =>
        `H-${i},Herb ${i},${(i * 7) % 50}.5,${i % 3 ? 'Leaf' : 'Root'},${i % 2 ? 'yes' : ''}`,
    );
    await take(source, `sku,name,price,category,hardy\n${lines.join('\n')}`);
  });
  test('is paged, searched, filtered by a formula and sorted', async () => {
    expect(await rows(source, 'limit=2&offset=3')).toMatchObject({
      total: 60,
      rows: [{ key: 'H-3' }, { key: 'H-4' }],
    });
    expect((await rows(source, 'q=herb+59')).rows.map((r) => r.key)).toEqual(['H-59']);
    const dear = await rows(
      source,
      `filter=${encodeURIComponent('price > 40 and category = "Root"')}`,
    );
    expect(dear.total).toBe(
      Array.from({ length: 60 }, (_, i) => i).filter(
        (i) => ((i * 7) % 50) + 0.5 > 40 && i % 3 === 0,
      ).length,
    );
    const sorted = await rows(source, 'sort=price&descending=true&limit=3');
    expect(sorted.rows.map((r) => r.record['price'])).toEqual([49.5, 49.5, 48.5]);
    const wrong = await api.get(`/sources/${source}/rows?filter=${encodeURIComponent('price >')}`);
    expect([wrong.status, message(wrong)]).toEqual([400, expect.stringContaining('column 8')]);
  });
  test('has a profile of its fields, an imported one among them', async () => {
    const { body } = (await api.get(`/sources/${source}/profile`)) as {
      body: { rows: number; fields: { name: string }[] };
    };
    expect(body.rows).toBe(60);
    expect(body.fields.find((f) => f.name === 'price')).toMatchObject({
      kind: 'number',
      filled: 60,
      least: '0.5',
      greatest: '49.5',
    });
    expect(body.fields.find((f) => f.name === 'hardy')).toMatchObject({
      kind: 'boolean',
      filled: 30,
      distinct: 1,
    });
    expect(body.fields.find((f) => f.name === 'category')).toMatchObject({
      distinct: 2,
      commonest: [
        { value: 'Leaf', count: 40 },
        { value: 'Root', count: 20 },
      ],
    });
  });
  test('is shared by its shop’s recipients under the name that formulas use', async () => {
    const { body } = (await api.post('/shops/s/shared').send({ catalogs: null })) as {
      body: { shared: { catalog: Record<string, unknown[]> } };
    };
    expect(body.shared.catalog['herbs']).toHaveLength(60);
    const clash = await api
      .post('/sources')
      .send({ shop: 's', name: 'Again', kind: 'file', target: 'catalog', formula_name: 'herbs' });
    expect([clash.status, message(clash)]).toEqual([409, expect.stringContaining('catalog.herbs')]);
  });
  test('goes with its source, and comes back with it', async () => {
    expect((await api.remove(`/sources/${source}`)).status).toBe(204);
    expect((await api.get(`/sources/${source}`)).status).toBe(404);
    await api.post(`/sources/${source}/restore`);
    expect((await rows(source)).total).toBe(60);
  });
});

describe('typed in', () => {
  test('rows go the way of files, are changed by key and deleted one by one', async () => {
    const source = await newSource('notes', { kind: 'typed' });
    const type = (records: object[]) => api.post(`/sources/${source}/typed`).send({ records });
    expect((await type([{ about: 'Bulbs', words: 'Deep' }])).status).toBe(200);
    await type([
      { about: 'Bulbs', words: 'Deeper' },
      { about: 'Pots', words: 'Soak' },
    ]);
    expect((await rows(source)).rows.map((r) => r.record['words'])).toEqual(['Deeper', 'Soak']);
    const bad = await type([{ about: 'Seeds' }]);
    expect([bad.status, message(bad)]).toEqual([422, expect.stringMatching(/Words/)]);
    await api.remove(`/sources/${source}/rows/Bulbs`);
    expect((await rows(source)).total).toBe(1);
  });
});

describe('people', () => {
  test('a second row that is typed in changes the fields that it gives, and no others', async () => {
    const source = await newSource('people', { kind: 'typed' });
    const type = (records: object[]) => api.post(`/sources/${source}/typed`).send({ records });
    await type([{ email: 'Ann@p.example', first_name: 'Ann', consent: true }]);
    await type([{ email: 'ann@P.example', city: 'Ghent' }]);
    expect((await rows(source)).rows.map(({ record }) => record)).toMatchObject([
      { first_name: 'Ann', consent: true, city: 'Ghent' },
    ]);
  });
  const person = async (email: string) =>
    (await api.get(`/shops/s/person?email=${email}`)).body as {
      record: { person: Record<string, unknown> };
    };
  test('are taken with consent only, where that is asked; a no is never raised silently', async () => {
    const source = await newSource('people');
    const csv = (consent: string) =>
      `email,consent,consent date,consent source\nann@p.example,${consent},2026-01-02,at the till\nbo@p.example,no,,\n`;
    const look = await upload(source, csv('yes'));
    const only = { ...(look.settings as FileSettings), consented_only: true };
    expect(await check(look, 'whole', only)).toMatchObject({ counts: { new: 1, left_out: 1 } });
    await apply(look);
    expect((await person('ann@p.example')).record.person).toMatchObject({
      consent: true,
      consent_how: 'at the till',
    });
    await api.post('/events').send({
      id: 'c1',
      at: '2026-11-20T09:00:00Z',
      shop: 's',
      email: 'ann@p.example',
      kind: 'consent_changed',
      consent: false,
      how: 'unsubscribe link',
    });
    const again = await upload(source, csv('yes').replace('2026-01-02', '2026-11-23'));
    const all = { ...(again.settings as FileSettings), consented_only: false };
    expect(await check(again, 'whole', all)).toMatchObject({ counts: { consent_kept: 1, new: 1 } });
    await apply(again);
    expect((await person('ann@p.example')).record.person).toMatchObject({
      consent: false,
      consent_how: 'unsubscribe link',
    });
    const raised = await upload(source, csv('yes').replace('2026-01-02', '2026-11-24'));
    expect(await check(raised, 'whole', all, { raise_consent: true })).toMatchObject({
      counts: { consent_kept: 0, changed: 1 },
    });
    await apply(raised);
    expect((await person('ann@p.example')).record.person).toMatchObject({ consent: true });
  });
  test('of every shop are known in each, and a no in any of them stands', async () => {
    const source = await newSource('people', { shop: null });
    const csv = (consent: string) => `email,consent\ncy@p.example,${consent}\nbo@p.example,yes\n`;
    const look = await upload(source, csv('no'));
    // bo@p.example said no in the source before.
    expect(await check(look)).toMatchObject({ counts: { new: 2, consent_kept: 1 } });
    await apply(look);
    expect((await person('cy@p.example')).record.person).toMatchObject({ consent: false });
    const again = await upload(source, csv('yes'));
    expect(await check(again)).toMatchObject({ counts: { unchanged: 2, consent_kept: 2 } });
  });
  test('have orders of several rows whole, or not at all', async () => {
    const source = await newSource('orders');
    const look = await upload(
      source,
      'Order no,Email,Date,Currency,SKU,Price\nM1,ann@p.example,2026-11-01,EUR,A,2\nM1,ann@p.example,2026-11-01,EUR,B,dear\nM2,ann@p.example,2026-11-02,EUR,A,2\nM2,ann@p.example,2026-11-02,EUR,B,3',
    );
    const settings = look.settings as FileSettings;
    settings.mapping.columns = settings.mapping.columns.map((c) =>
      c.column === 'SKU' || c.column === 'Price'
        ? {
            ...c,
            to: c.column.toLowerCase(),
            reading: c.column === 'SKU' ? { kind: 'text' } : { kind: 'number', decimal: '.' },
            list: { name: 'lines', member: 0 },
          }
        : c,
    );
    expect(await check(look, 'whole', settings)).toMatchObject({ counts: { new: 1, rejected: 2 } });
    await apply(look);
    expect((await rows(source)).rows).toMatchObject([{ key: 'M2', record: { total: 5 } }]);
    await carafe.imports.undo(look.import.id);
  });
  test('have orders that were imported whole, lines gathered from numbered columns', async () => {
    const source = await newSource('orders');
    await take(
      source,
      'Order no,Email,Date,Currency,product_1_name,product_1_price,product_2_name,product_2_price\nN7,ann@p.example,2026-11-01,EUR,Pot,4.50,Pan,2',
    );
    const { record } = (await person('ann@p.example')) as { record: Record<string, unknown> };
    expect(record['order']).toMatchObject({
      number: 'N7',
      total: 6.5,
      lines: [{ name: 'Pot' }, { name: 'Pan' }],
    });
    expect(record['person']).toMatchObject({ orders_count: 1 });
  });
});

test('where people cannot be updated after their source is deleted, that is set aside, and can be tried again', async () => {
  const source = await newSource('people');
  await take(source, 'email,first_name,consent\nrosa@s.example,Rosa,yes\n');
  const { db } = carafe.store;
  expect(carafe.tables.people.idOf('s', 'rosa@s.example')).not.toBeNull();
  db.exec(
    `CREATE TRIGGER broken BEFORE DELETE ON people BEGIN SELECT RAISE(ABORT, 'The disk is full'); END`,
  );
  expect((await api.remove(`/sources/${source}`)).status).toBe(204);
  const aside = async () =>
    (await api.get('/attention')).body as { items: { id: number; name: string; reason: string }[] };
  const [item] = (await aside()).items;
  expect(item).toMatchObject({ name: 'Updating people after a source changed' });
  expect(item?.reason).toMatch(/^It failed \(The disk is full\)/);
  db.exec('DROP TRIGGER broken');
  expect((await api.post(`/jobs/${item?.id ?? 0}/retry`)).status).toBe(204);
  expect((await aside()).items).toEqual([]);
  expect(carafe.tables.people.idOf('s', 'rosa@s.example')).toBeNull();
});

test('what was set aside is begun anew when it is asked for again, with what is asked then', async () => {
  const { queue, tables } = carafe;
  const asked: unknown[] = [];
  queue.register('told', {
    ...{ name: 'Told', limit: 60_000 },
    run: ({ payload }) => {
      asked.push(JSON.parse(payload));
      return asked.length === 1 ? Promise.reject(new Error('no')) : Promise.resolve();
    },
  });
  await queue.doNow({ kind: 'told', key: 'a', payload: 1 });
  expect(tables.queuedJobs.asideAll().map(({ kind }) => kind)).toContain('told');
  // Twice at once: each is done, one after the other.
  await Promise.all([2, 3].map((payload) => queue.doNow({ kind: 'told', key: 'a', payload })));
  expect(asked.at(-1)).toBe(3);
  expect(tables.queuedJobs.idOf('told', 'a')).toBeNull();
});
