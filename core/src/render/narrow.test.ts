import fc from 'fast-check';
import { reviveRecord } from '../record';
import { localeOf, newContext, type Fields } from '../formula';
import type { Loop } from '../template';
import { compileLoop } from './loop';
import { narrowCatalog } from './narrow';

const NOW = new Date('2026-11-24T09:00:00Z');
const product = fc.record({
  sku: fc.string({ minLength: 1, maxLength: 4 }),
  price: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
  in_stock: fc.boolean(),
  added_at: fc.oneof(
    fc.constantFrom('2026-11-23', '2026-11-24', '2026-12-01'),
    fc
      .integer({ min: -60, max: 60 })
      .map((hours) => new Date(+NOW + hours * 3_600_000).toISOString()),
  ),
});
const loop = fc.record(
  {
    list: fc.constantFrom('catalog.big', 'catalog.big where (in_stock)'),
    as: fc.constant('p'),
    where: fc.constantFrom(
      ...['p.in_stock', 'p.price > 9', 'p.added_at < today', 'nonsense ('],
      ...['p.added_at >= add_days(today, -1)', 'p.added_at > "2026-11-24"'],
    ),
    sort: fc.record({
      by: fc.constantFrom('p.price', 'p.sku', 'p.added_at'),
      direction: fc.constantFrom('ascending' as const, 'descending' as const),
    }),
    at_most: fc.integer({ min: 1, max: 6 }),
  },
  { requiredKeys: ['list', 'as'] },
);

/** The products that a loop shows of a catalog. */
function shownBy(
  { list, as, where, sort, at_most }: Loop,
  products: readonly Fields[],
  zone = 'UTC',
): { shown: readonly unknown[]; kept: number } {
  const formulas = [list, where ?? '', sort?.by ?? ''];
  const context = newContext({ catalog: { big: products } }, localeOf([], [zone]));
  context.clock = { now: NOW, today: context.locale.day(NOW) };
  const program = {
    ...{ list: 0, as },
    ...(where !== undefined && { where: 1 }),
    ...(sort && { by: 2, down: sort.direction === 'descending' }),
    ...(at_most !== undefined && { atMost: at_most }),
  };
  return compileLoop(program, formulas)(context);
}

test('a loop over what is left of a catalog shows what it shows of all of it', () => {
  fc.assert(
    fc.property(
      fc.array(product, { maxLength: 40 }),
      fc.array(loop as fc.Arbitrary<Loop>, { minLength: 1, maxLength: 3 }),
      fc.constantFrom(
        'UTC',
        'Asia/Tokyo',
        'America/Los_Angeles',
        'Pacific/Kiritimati',
        'Etc/GMT+12',
      ),
      (made, loops, zone) => {
        const products = made.map((one) => reviveRecord(one) as Fields);
        const { shown, kept } = narrowCatalog(loops, 'big', products, {}, NOW);
        const left = shown.map((place) => products[place] as Fields);
        loops.forEach((one, i) => {
          expect(shownBy(one, left, zone).shown).toEqual(shownBy(one, products, zone).shown);
          expect(kept[i]).toBe(shownBy(one, products).kept);
        });
      },
    ),
  );
});

test('what is not shown is left out', () => {
  const products = Array.from({ length: 5_000 }, (_, i): Fields => ({ sku: `S${i}`, price: i }));
  const sort = { by: 'p.price', direction: 'descending' as const };
  const loops = [{ list: 'catalog.big', as: 'p', sort, at_most: 3 }];
  expect(narrowCatalog(loops, 'big', products, {}, NOW)).toEqual({
    shown: [4997, 4998, 4999],
    kept: [5_000],
  });
});
