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
  ['a loop that shows all', [{ ...loop, before: 3, shown: 3 }], false, '×3 cart lines'],
  ['a loop that filters', [{ ...loop, before: 3, shown: 2 }], false, '×2 of 3 cart lines'],
  [
    'a condition that holds',
    [{ node: 'x', path: 'when', formula: 'a > 1', is: 'condition', held: true, why }],
    false,
    'shows',
  ],
  [
    'one that does not',
    [{ node: 'x', path: 'when', formula: 'a > 1', is: 'condition', held: false, why }],
    true,
    'hidden: not a > 1',
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
  ['what another node did', [{ ...loop, node: 'y', before: 3, shown: 3 }], false, ''],
])('%s', (_, trail, hidden, summary) => {
  expect(outcomeOf(c.text('x', { id: 'x' }), trail)).toEqual({ hidden, summary });
});
