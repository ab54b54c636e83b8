import type { ImportSummary } from '@carafe/contract';
import Database from 'better-sqlite3';
import { TEST_SHOP, testServer } from '../testing';
import { openStaging } from './staging';

// A stop at any point of an import leaves all of it or nothing.

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterAll(() => carafe.store.close());

let count = 0;
function newSource(target: 'catalog' | 'people' | 'events'): string {
  const id = `r${++count}`;
  carafe.tables.sources.insert(
    {
      ...{ id, shop: 's', name: id, kind: 'file', target, formula_name: id, address: null },
      ...{ every_minutes: null, fresh_hours: 1, next_fetch_at: null },
    },
    '2026-01-01',
  );
  return id;
}
async function checked(source: string, name: string, text: string) {
  const { imports } = carafe;
  const one = await imports.receiveText(imports.sourceOf(source), name, text);
  const look = await imports.look(one.id);
  const { done } = await imports.check(one.id, { settings: look.settings, mode: 'whole' });
  return done;
}
const keys = (source: string) =>
  carafe.tables.entries
    .page(source, 100, 0)
    .map(({ key, record }) => `${key} ${String(record['name'])}`);

test('what was written of a file before a stop is seen by nobody, and the file can be imported again', async () => {
  const { imports, tables, store } = carafe;
  const source = newSource('catalog');
  const first = await checked(source, 'a.csv', 'sku,name,price\nA,one,5\nB,two,5\nC,three,5');
  await imports.apply(first.id);
  const next = await checked(source, 'b.csv', 'sku,name,price\nA,ONE,4\nC,three,5\nD,four,5');
  // As far as an import comes before it is shown: rows written, others ended, the state said.
  const { generations } = tables;
  generations.attach(`${next.file}.staging`);
  const now = '2026-11-24T09:00:00.000Z';
  tables.productChanges.note({ from: 0, to: 100, source, generation: 2, now });
  generations.insertNext({ from: 0, to: 100, source, generation: 2, place: 100 });
  generations.end(generations.gone(source), 2);
  generations.detach();
  tables.imports.change(next.id, { state: 'applying' });
  expect(keys(source)).toEqual(['A one', 'B two', 'C three']);
  expect(tables.entries.find(source, 'D')).toBeNull();
  const changed = () => tables.productChanges.since(source, '2000').map(({ sku }) => sku);
  expect(changed()).toEqual([]);

  await imports.recover();
  expect(store.db.prepare('SELECT COUNT(*) AS n FROM product_changes').get()).toEqual({ n: 0 });
  expect(keys(source)).toEqual(['A one', 'B two', 'C three']);
  expect(
    store.db.prepare('SELECT COUNT(*) AS n FROM entries WHERE source = ?').get(source),
  ).toEqual({ n: 3 });
  expect(imports.find(next.id)).toMatchObject({
    state: 'checked',
    message: expect.stringContaining('Import the file again') as string,
  });
  await imports.apply(next.id);
  expect(keys(source)).toEqual(['A ONE', 'C three', 'D four']);
  expect(changed()).toEqual(['A']);
  expect(imports.sourceOf(source).row_count).toBe(3);
  await imports.undo(next.id);
  expect(changed()).toEqual([]);
  expect(keys(source)).toEqual(['A one', 'B two', 'C three']);
  expect(imports.sourceOf(source).row_count).toBe(3);
});

test('people who waited to be put together anew when it stopped are put together', async () => {
  const { imports, tables } = carafe;
  const source = newSource('people');
  const one = await checked(
    source,
    'p.csv',
    'email,first_name\nann@x.example,Ann\nbo@x.example,Bo',
  );
  await imports.apply(one.id);
  const name = (email: string) => {
    const id = tables.people.idOf('s', email);
    return id === null ? null : tables.people.data('s', [id])[0]?.data.person['first_name'];
  };
  expect(name('ann@x.example')).toBe('Ann');
  // Shown, but nobody put together yet.
  carafe.store.db
    .prepare("UPDATE entries SET record = replace(record, 'Ann', 'Anna') WHERE source = ?")
    .run(source);
  tables.stalePeople.add('s', ['ann@x.example', 'gone@x.example']);
  await imports.recover();
  expect(name('ann@x.example')).toBe('Anna');
  expect(name('bo@x.example')).toBe('Bo');
  expect(tables.stalePeople.shops()).toEqual([]);
});

test('events of a file that was cut off are taken out again', async () => {
  const { imports, tables } = carafe;
  const source = newSource('events');
  const event = (id: string) =>
    JSON.stringify({
      id,
      at: '2026-11-01T09:00:00Z',
      shop: 's',
      kind: 'viewed',
      sku: 'A',
      email: `${id}@x.example`,
    });
  const one = await checked(source, 'e.ndjson', [event('e1'), event('e2')].join('\n'));
  tables.generations.attach(`${one.file}.staging`);
  tables.events.insertStaged(0, 1, one.id);
  tables.generations.detach();
  tables.imports.change(one.id, { state: 'applying' });
  expect(tables.events.count('s')).toBe(1);
  await imports.recover();
  expect(tables.events.count('s')).toBe(0);
  expect(tables.people.idOf('s', 'e1@x.example')).toBeNull();
  const applied: ImportSummary = imports.summary(await imports.apply(one.id));
  expect(applied).toMatchObject({ state: 'applied', undoable: true });
  expect(tables.events.count('s')).toBe(2);
  expect(imports.sourceOf(source).row_count).toBe(2);
});

test('a file that an earlier Carafe has checked can be imported: whom it is about is found out then', async () => {
  const { imports, tables } = carafe;
  const source = newSource('events');
  const event = (id: string, who: object) =>
    JSON.stringify({
      ...{ id, at: '2026-11-02T09:00:00Z', shop: 's', currency: 'EUR', sku: 'A', name: 'Poppy' },
      ...{ kind: 'cart_added', price: 2, quantity: 1, ...who },
    });
  const lines = [
    event('o1', { email: 'old@x.example' }),
    event('o2', { visitor: 'v-1' }),
    event('o3', { visitor: 'v-1', email: 'older@x.example' }),
  ];
  const one = await checked(source, 'o.ndjson', lines.join('\n'));
  const staging = new Database(`${one.file}.staging`);
  staging.exec('DROP TABLE about; DROP TABLE orders');
  staging.close();
  await imports.apply(one.id);
  const quantityOf = (email: string) => {
    const [found] = tables.people.data('s', [tables.people.idOf('s', email) ?? 0]);
    return found?.data.shopper.cart?.lines[0]?.quantity;
  };
  expect(quantityOf('old@x.example')).toBe(1);
  expect(quantityOf('older@x.example')).toBe(2);
});

test('a document is read once: what comes after it is streamed from beside the file', async () => {
  const { imports } = carafe;
  const source = newSource('catalog');
  const one = await imports.receiveText(
    imports.sourceOf(source),
    'c.json',
    JSON.stringify({
      items: [
        { sku: 'A', name: 'one' },
        { sku: 'B', name: 'two' },
      ],
      other: [{ sku: 'Z', name: 'z' }],
    }),
  );
  const look = await imports.look(one.id);
  expect(look.lists.map(({ pointer }) => pointer)).toEqual(['/items', '/other']);
  // The file itself is not asked any more.
  const { file } = imports.find(one.id);
  const { writeFileSync } = await import('node:fs');
  writeFileSync(file, '{"broken');
  const { done } = await imports.check(one.id, { settings: look.settings, mode: 'whole' });
  expect((await done).counts).toMatchObject({ read: 2, new: 2 });
  const staging = openStaging(`${file}.staging`);
  expect(staging.columns()).toEqual(['sku', 'name']);
  staging.close();
  // Another list of it needs the file again.
  const other = await imports.look(one.id, { ...(look.settings as object), pointer: '/other' });
  expect(other.problem).toMatch(/JSON/);
});

test('a row as formulas read it is kept as long as nothing is written, and no longer', async () => {
  const { imports, tables } = carafe;
  const source = newSource('catalog');
  const first = await checked(source, 'a.csv', 'sku,name,price,added_at\nA,one,5,2026-11-02');
  await imports.apply(first.id);
  const read = (key: string) => tables.entries.asRead(source, key);
  expect(read('A')).toMatchObject({ name: 'one', price: 5, added_at: expect.any(Date) });
  expect(read('A')).toBe(read('A'));
  expect(read('D')).toBeNull();
  const next = await checked(source, 'b.csv', 'sku,name,price\nA,ONE,4\nD,four,5');
  await imports.apply(next.id);
  expect([read('A')?.['name'], read('D')?.['name']]).toEqual(['ONE', 'four']);
  await imports.undo(next.id);
  expect([read('A')?.['name'], read('D')]).toEqual(['one', null]);
});

test('a check that a stop has cut off is done again by itself; one that nobody waits for is not', async () => {
  const { imports, tables, queue } = carafe;
  const source = newSource('catalog');
  const file = async (name: string) => {
    const one = await imports.receiveText(
      imports.sourceOf(source),
      name,
      'sku,name,price\nA,one,5',
    );
    const { settings } = await imports.look(one.id);
    tables.imports.change(one.id, { state: 'checking', settings: settings as never });
    return { id: one.id, asked: { settings, mode: 'whole' } };
  };
  const cut = await file('cut.csv');
  const alone = await file('alone.csv');
  const job = { kind: 'check', key: cut.id, payload: cut.asked, runAt: 0 };
  tables.queuedJobs.add(job);
  await imports.recover();
  expect(imports.find(cut.id).state).toBe('checking');
  expect(imports.find(alone.id).state).toBe('stopped');
  await queue.tick();
  await queue.idle();
  expect(imports.find(cut.id)).toMatchObject({ state: 'checked', counts: { new: 1 } });
  expect(tables.queuedJobs.idOf('check', cut.id)).toBeNull();
});
