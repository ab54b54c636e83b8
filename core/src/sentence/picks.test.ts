import fc from 'fast-check';
import { mailOf } from '../build/testing';
import { blankTemplate, composer, countedIds } from '../template';
import { compile, evaluate, localeOf, newContext, parse } from '../formula';
import { MOST_PICKS, pickedLoop, picksOf, productsNamed, productsWanted } from '.';

const LOOP = { list: 'catalog.garden', as: 'p', where: 'p.stock > 3', at_most: 4 };

test('products picked by hand show in their order, whatever the catalog’s is', async () => {
  const c = composer(countedIds());
  const items = pickedLoop(LOOP, ['C', 'A', 'gone']);
  const fields = [{ show: 'words' as const, text: '{{ p.sku }}', weight: 'plain' as const }];
  const template = blankTemplate('T', 's', [c.section('S', [c.block('cards', { items, fields })])]);
  const garden = ['A', 'B', 'C'].map((sku) => ({ sku }));
  const { mail } = await mailOf(template, { catalog: { garden } });
  expect(mail.text).toBe('- C\n- A\n');
});

test('the picks of a loop are read back; any other filter is none', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1, maxLength: MOST_PICKS }),
      (skus) => {
        const loop = pickedLoop(LOOP, skus);
        expect(picksOf(loop)).toEqual(skus);
        expect(loop.list).toBe(LOOP.list);
      },
    ),
  );
  expect(picksOf(LOOP)).toBeNull();
  expect(picksOf({ where: 'p.sku in ["A"] and p.stock > 3' })).toBeNull();
  expect(picksOf({})).toBeNull();
  expect(pickedLoop(LOOP, [])).toEqual({ list: 'catalog.garden', as: 'p' });
});

/** The SKUs of the products for which a formula holds. */
function holding(formula: string, products: readonly { sku: string }[]): string[] {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(formula);
  const holds = compile(parsed.value);
  return products
    .filter((product) => evaluate(holds, newContext({ ...product }, localeOf([], []))) === true)
    .map(({ sku }) => sku);
}

test('products are narrowed down by category, stock and price, each alone and together', () => {
  const products = [
    { sku: 'A', category: 'Seeds', price: 2, in_stock: true },
    { sku: 'B', category: 'Seeds', price: 9.5, in_stock: true },
    { sku: 'C', category: 'Seeds', price: 2, in_stock: false },
    { sku: 'D', category: 'Pots "large"', price: 3 },
  ];
  const found = (wanted: Partial<Parameters<typeof productsWanted>[0]>) =>
    holding(productsWanted({ category: '', inStock: false, upTo: null, ...wanted }), products);
  expect(productsWanted({ category: ' ', inStock: false, upTo: null })).toBe('');
  expect(found({ category: 'Seeds' })).toEqual(['A', 'B', 'C']);
  expect(found({ category: 'Pots "large"' })).toEqual(['D']);
  expect(found({ inStock: true })).toEqual(['A', 'B', 'D']);
  expect(found({ upTo: 2.5 })).toEqual(['A', 'C']);
  expect(found({ category: 'Seeds', inStock: true, upTo: 9.5 })).toEqual(['A', 'B']);
});

const sku = fc.string({ unit: fc.constantFrom(...'ab1"\\{}\'-,]'), minLength: 1, maxLength: 8 });

test('products are found by their SKUs, whatever those are made of', () => {
  fc.assert(
    fc.property(fc.uniqueArray(sku, { minLength: 1 }), (skus) => {
      const products = [...skus, ...skus.map((sku) => `${sku}-other`)].map((sku) => ({ sku }));
      const wanted = new Set(skus);
      const named = products.map(({ sku }) => sku).filter((sku) => wanted.has(sku));
      expect(holding(productsNamed(skus), products)).toEqual(named);
    }),
  );
});
