import fc from 'fast-check';
import { mailOf } from '../build/testing';
import { blankTemplate, composer, countedIds } from '../template';
import { MOST_PICKS, pickedLoop, picksOf } from '.';

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
