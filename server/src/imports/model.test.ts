import fc from 'fast-check';
import { TEST_SHOP, testServer } from '../testing';

// Whatever files come, in whatever order: a source holds what a plain map would, and going back gives
// what was there before, to the row and to its place.

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterAll(() => carafe.store.close());

interface Row {
  sku: string;
  name: string;
  price: string;
}
const row = fc.record({
  sku: fc.constantFrom('A', 'B', 'C', 'D', 'E', 'F'),
  name: fc.constantFrom('Aster', 'Beet "red"', 'Kale, black', 'Dill\nfern'),
  price: fc.constantFrom('1', '2.50', 'dear', ''),
});
const step = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      mode: fc.constantFrom('whole', 'part'),
      rows: fc.array(row, { maxLength: 8 }),
    }),
  },
  { weight: 1, arbitrary: fc.constant('back' as const) },
);

const quoted = (text: string) => `"${text.replace(/"/g, '""')}"`;
const asCsv = (rows: readonly Row[]) =>
  ['sku,name,price', ...rows.map((r) => [r.sku, r.name, r.price].map(quoted).join(','))].join('\n');

type Held = Map<string, { name: string; price: number | undefined }>;

/** What a file comes to: rows that can be read, each key once, the first one. */
function readable(rows: readonly Row[]): Held {
  const held: Held = new Map();
  for (const { sku, name, price } of rows)
    if (price !== 'dear' && !held.has(sku))
      held.set(sku, { name, price: price === '' ? undefined : Number(price) });
  return held;
}

function next(held: Held, mode: string, rows: readonly Row[]): Held {
  const file = readable(rows);
  if (mode === 'part') return new Map([...held, ...file]);
  // A row that is in the file, though it cannot be read, is not gone.
  const named = new Set(rows.map(({ sku }) => sku));
  const kept = [...held].filter(([sku]) => named.has(sku));
  return new Map([...kept, ...file]);
}

let count = 0;
function newSource(): string {
  const id = `model${++count}`;
  carafe.tables.sources.insert(
    {
      ...{
        id,
        shop: 's',
        name: id,
        kind: 'file',
        target: 'catalog',
        formula_name: id,
        address: null,
      },
      ...{ every_minutes: null, fresh_hours: 1, next_fetch_at: null },
    },
    '2026-01-01',
  );
  return id;
}

const mapping = {
  columns: [
    { column: 'sku', to: 'sku', reading: { kind: 'text' } },
    { column: 'name', to: 'name', reading: { kind: 'text' } },
    { column: 'price', to: 'price', reading: { kind: 'number', decimal: '.' } },
  ],
};
const settings = {
  ...{ format: 'table', encoding: 'utf-8', pointer: '', consented_only: false, mapping },
  dialect: { delimiter: ',', quote: '"', header: true },
};

const heldBy = (source: string): Held =>
  new Map(
    carafe.tables.entries
      .page(source, 100, 0)
      .map(({ key, record }) => [
        key,
        { name: record['name'] as string, price: record['price'] as number | undefined },
      ]),
  );

test('a source holds what a plain map would; going back is exact', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 7 }), async (steps) => {
      const source = newSource();
      const { imports } = carafe;
      let held: Held = new Map();
      let before: { held: Held; ids: number[]; import: string } | null = null;
      for (const one of steps) {
        if (one === 'back') {
          if (!before) continue;
          await imports.undo(before.import);
          ({ held } = before);
          // The same rows in the same places.
          expect(carafe.tables.entries.page(source, 100, 0).map((r) => r.id)).toEqual(before.ids);
          before = null;
        } else {
          const { mode, rows } = one;
          const ids = carafe.tables.entries.page(source, 100, 0).map((r) => r.id);
          const file = await imports.receiveText(imports.sourceOf(source), 'f.csv', asCsv(rows));
          const { done } = await imports.check(file.id, { settings, mode: mode as 'whole' });
          const checked = await done;
          const counts = checked.counts;
          if (!counts) throw new Error(checked.message ?? 'Nothing was counted.');
          const after = next(held, mode, rows);
          expect(counts.read).toBe(rows.length);
          expect(counts.new + counts.changed + counts.unchanged + counts.rejected).toBe(
            rows.length,
          );
          expect(counts.new).toBe([...readable(rows).keys()].filter((k) => !held.has(k)).length);
          expect(counts.gone).toBe([...held.keys()].filter((k) => !after.has(k)).length);
          await imports.apply(file.id);
          before = { held, ids, import: file.id };
          held = after;
        }
        expect(heldBy(source)).toEqual(held);
      }
    }),
    { numRuns: 40 },
  );
}, 120_000);
