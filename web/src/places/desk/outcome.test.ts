import type { Trail } from '@carafe/core/render';
import { composer, countedIds } from '@carafe/core/template';
import { outcomeOf } from './outcome';

const c = composer(countedIds());
const why = { value: true, summary: 'yes', parts: [], reasons: [] };
const loop = {
  node: 'x',
  path: 'items',
  formula: 'cart.lines',
  is: 'loop',
  as: 'line',
  kept: 2,
  members: [] as { name: string; shown: boolean }[],
} as const;
const text = { node: 'x', path: 'text', formula: 'a', is: 'value', text: 'b', why } as const;

test.each<[string, Trail, boolean, string]>([
  ['nothing', [], false, ''],
  ['a loop that shows all', [{ ...loop, before: 3, shown: 3 }], false, '3 lines'],
  ['a loop that filters', [{ ...loop, before: 3, shown: 2 }], false, '2 of 3 lines'],
  [
    'a condition that holds',
    [
      {
        node: 'x',
        path: 'when',
        formula: 'a > 1',
        is: 'condition',
        held: true,
        said: 'a 2 is over 1',
        why,
      },
    ],
    false,
    'shows',
  ],
  [
    'one that does not',
    [
      {
        node: 'x',
        path: 'when',
        formula: 'a > 1',
        is: 'condition',
        held: false,
        said: 'a 1 is not over 1',
        why,
      },
    ],
    true,
    'hidden: a 1 is not over 1',
  ],
  ['a fallback', [{ ...text, fallback: true }], false, 'fallback used'],
  [
    'two fallbacks',
    [
      { ...text, fallback: true },
      { ...text, fallback: true },
    ],
    false,
    '2 fallbacks used',
  ],
  ['a list of one', [{ ...loop, before: 1, shown: 1 }], false, '1 line'],
  [
    'a catalog',
    [{ ...loop, formula: 'catalog.garden', before: 240, shown: 6 }],
    false,
    '6 of 240 products',
  ],
  ['an empty list', [{ ...loop, before: 0, shown: 0 }], false, 'no lines'],
  [
    'a list without a name',
    [{ ...loop, formula: 'first(x, 2)', before: 2, shown: 2 }],
    false,
    '2 members',
  ],
  [
    'a loop that cannot be read',
    [{ ...loop, formula: 'missing', before: 0, shown: 0 }],
    false,
    'formula error',
  ],
  ['what another node did', [{ ...loop, node: 'y', before: 3, shown: 3 }], false, ''],
])('%s', (_, trail, hidden, summary) => {
  expect(outcomeOf(c.text('x', { id: 'x' }), trail)).toEqual({ hidden, summary });
});
