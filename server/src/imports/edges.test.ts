import { existsSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { TargetId } from '@carafe/core/intake';
import { testServer, TEST_SHOP } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

function newSource(target: TargetId = 'catalog'): string {
  const id = carafe.newId();
  carafe.tables.sources.insert(
    {
      ...{ id, shop: 's', name: id, kind: 'file', target, formula_name: id },
      ...{ address: null, every_minutes: null, fresh_hours: 1, next_fetch_at: null },
    },
    '2026-01-01',
  );
  return id;
}
async function received(text: string | Uint8Array, source: string, name = 'f') {
  const { imports } = carafe;
  return imports.receiveText(imports.sourceOf(source), name, text);
}
/** Looks at a file and checks it as it was found to be written. */
async function checked(text: string | Uint8Array, target: TargetId = 'catalog') {
  const { imports } = carafe;
  const one = await received(text, newSource(target));
  const { settings } = await imports.look(one.id);
  const { done } = await imports.check(one.id, { settings, mode: 'whole' });
  return done;
}
/** Why rows of a checked file are rejected. */
async function reasons(text: string | Uint8Array, target: TargetId = 'catalog') {
  const one = await checked(text, target);
  const { openStaging } = await import('./staging');
  const staging = openStaging(`${one.file}.staging`);
  const rows = staging.rejected(100, 0);
  staging.close();
  return rows.map(({ line, problems }) => [
    line,
    (JSON.parse(problems) as { message: string }[])[0]?.message,
  ]);
}

describe('rows that are not what they seem', () => {
  test('an event of a shop that nobody has is told in its line; the others are taken', async () => {
    const event = (id: string, shop: string) =>
      JSON.stringify({
        ...{ id, shop, at: '2026-11-20T09:00:00Z', email: 'a@post.example' },
        ...{ kind: 'viewed', sku: 'S' },
      });
    const source = newSource('events');
    carafe.store.db.prepare('UPDATE sources SET shop = NULL WHERE id = ?').run(source);
    const { imports, tables } = carafe;
    const lines = [event('1', 's'), event('2', 'nowhere'), event('3', 's')];
    const one = await received(lines.join('\n'), source);
    const { settings } = await imports.look(one.id);
    const { done } = await imports.check(one.id, { settings, mode: 'part' });
    expect((await done).counts).toMatchObject({ new: 2, rejected: 1 });
    await imports.apply(one.id);
    expect(tables.events.count('s')).toBe(2);
    expect(await reasons(lines.join('\n'), 'events')).toEqual([
      [2, expect.stringMatching(/It belongs to shop “nowhere”, but this source is for “s”/)],
    ]);
  });

  test('a file that was checked before a shop was gone is not imported, and says why', async () => {
    const { imports, tables } = carafe;
    const gone = { ...TEST_SHOP, id: 'gone' };
    tables.shops.insert(gone);
    const source = newSource('events');
    carafe.store.db.prepare('UPDATE sources SET shop = NULL WHERE id = ?').run(source);
    const event = { id: '1', shop: 'gone', at: '2026-11-20T09:00:00Z', email: 'a@post.example' };
    const text = JSON.stringify({ ...event, kind: 'viewed', sku: 'S' });
    const one = await received(text, source);
    const { settings } = await imports.look(one.id);
    await (
      await imports.check(one.id, { settings, mode: 'part' })
    ).done;
    carafe.store.db.prepare("DELETE FROM shops WHERE id = 'gone'").run();
    await expect(imports.apply(one.id)).rejects.toThrow(
      'There is no shop “gone”. Check the file again: its events are rejected.',
    );
    expect(tables.events.count('gone')).toBe(0);
    expect(tables.imports.find(one.id)?.state).toBe('checked');
  });

  test('a row that is cut off, and one with a cell too many, are told and not taken', async () => {
    const rows = await reasons(
      'sku,name,price\nA,Aster,2\nB,Beet\nC,Carrot,3,extra\nD,Dill,4,,\nE',
    );
    expect(rows).toEqual([
      [3, expect.stringMatching(/2 cells, and the table 3 columns; perhaps it is cut off/)],
      [4, expect.stringMatching(/4 cells, 1 more than there are columns/)],
      [5, expect.stringMatching(/5 cells, 2 more than there are columns/)],
      [6, expect.stringMatching(/1 cell, and the table 3 columns/)],
    ]);
  });

  test('what stands above a table is passed over, and lines are counted from the top of the file', async () => {
    const rows = 'sku;name;price;stock\r\nA;Aster;1,50;3\r\nB;Bean;two;4\r\n';
    for (const [above, line] of [
      ['sep=;\r\n', 4],
      ['Products of the autumn\r\nAs of;31.3.2026\r\n\r\n', 6],
    ] as const) {
      const one = await checked(above + rows);
      expect((await one).counts).toMatchObject({ new: 1, rejected: 1 });
      expect(await reasons(above + rows)).toEqual([[line, expect.stringMatching(/“two”/)]]);
    }
  });

  test('a letter that the is not valid in the file’s encoding is told in its row, however late it comes', async () => {
    const many = Array.from({ length: 40_000 }, (_, i) => `S${i},Plain name of a product,2\n`).join(
      '',
    );
    const text = Buffer.concat([
      Buffer.from(`sku,name,price\n${many}`),
      Buffer.from([0x58, 0x2c, 0x4a, 0xfc, 0x72, 0x67, 0x2c, 0x32, 0x0a]),
    ]);
    expect(await reasons(text)).toEqual([
      [40_002, expect.stringMatching(/is not valid in the file’s encoding/)],
    ]);
  });

  test('lines of NDJSON that are nested without end, or cut off, are told by their line', async () => {
    const deep = `{"sku":"B","name":${'['.repeat(5000)}${']'.repeat(5000)}}`;
    const text = `{"sku":"A","name":"Aster","price":2}\n${deep}\n{"sku":"C","na`;
    const rows = await reasons(text);
    expect(rows).toEqual([
      [2, expect.stringMatching(/^Line 2: this is nested more than 100 levels deep/)],
      [3, expect.stringMatching(/^Line 3: this JSON ends too early/)],
    ]);
  });

  test('an order whose lines are no list is not taken with none', async () => {
    const order = { email: 'a@q.example', number: 'N1', placed_at: '2026-01-01', currency: 'EUR' };
    const rows = await reasons(JSON.stringify([{ ...order, lines: 'three pots' }]), 'orders');
    expect(rows).toEqual([[1, expect.stringMatching(/lines are no list/)]]);
  });
});

describe('files that hold no data', () => {
  test.each([
    ['a spreadsheet', Buffer.from([0x50, 0x4b, 3, 4, 20, 0, 6]), /\.xlsx.*Save the sheet as CSV/],
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10]), /picture \(PNG\)/],
    ['a packed file', gzipSync('sku,name'), /packed \(gzip\)/],
    ['a PDF', Buffer.from('%PDF-1.7'), /PDF/],
    [
      'five thousand columns',
      Buffer.from(`${Array.from({ length: 5000 }, (_, i) => `c${i}`).join(',')}\n`),
      /5,000 columns/,
    ],
  ])('%s says what it is when it is looked at', async (_, bytes, says) => {
    const one = await received(bytes, newSource());
    expect((await carafe.imports.look(one.id)).problem).toMatch(says);
  });
});

describe('files that nobody decides on', () => {
  const fileOf = (id: string) => carafe.imports.find(id).file;
  test('go when a later one has come, or after a week; what waits alone stays', async () => {
    const { imports } = carafe;
    const [source, other] = [newSource(), newSource()];
    const early = await received('sku,name\nA,a', source);
    carafe.wait(2);
    const late = await received('sku,name\nA,b', source);
    const alone = await received('sku,name\nA,c', other);
    carafe.wait(2);
    await imports.clean();
    expect([early, late, alone].map(({ id }) => existsSync(fileOf(id)))).toEqual([
      false,
      true,
      true,
    ]);
    expect(imports.find(early.id)).toMatchObject({
      state: 'stopped',
      message: expect.stringMatching(/Nobody decided/),
    });
    await expect(imports.look(early.id)).rejects.toThrow(/no longer kept/);
    carafe.wait(24 * 8);
    await imports.clean();
    expect(existsSync(fileOf(alone.id))).toBe(false);
    expect(imports.room()).toEqual({ count: 0, bytes: 0 });
  });

  test('and so does what belongs to no import; a checked file and its rows stay', async () => {
    const { imports } = carafe;
    const one = await checked('sku,name,price\nA,Aster,2');
    const folder = dirname(one.file);
    writeFileSync(join(folder, 'orphan'), 'x');
    utimesSync(join(folder, 'orphan'), new Date('2020-01-01'), new Date('2020-01-01'));
    carafe.wait(3);
    await imports.clean();
    expect(readdirSync(folder)).not.toContain('orphan');
    expect((await imports.apply(one.id)).state).toBe('applied');
  });
});
