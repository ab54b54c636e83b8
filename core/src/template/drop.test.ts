import fc from 'fast-check';
import {
  blankTemplate,
  canDrop,
  composer,
  countedIds,
  dropNodes,
  edit,
  readTemplate,
  walkNodes,
  type Template,
} from '.';

const c = composer(countedIds());
const inner = c.block('group', { id: 'full', blocks: [c.text('in', { id: 'in' })] } as never);
const template = blankTemplate('T', 's', [
  c.section(
    'One',
    [c.text('a', { id: 'a' }), c.text('b', { id: 'b' }), c.block('group', { id: 'g' })],
    {
      id: 's1',
    },
  ),
  c.columns(
    'Two',
    [[inner], [c.text('d', { id: 'd', when: 'x', else: c.text('e', { id: 'e' }) })]],
    {
      id: 's2',
    },
  ),
]);
const order = (of: Template) => {
  const ids: string[] = [];
  walkNodes(of, ({ node }) => void (/^n\d+$/.test(node.id) || ids.push(node.id)));
  return ids.join(' ');
};
const dropped = (dragged: string, target: string, side: 'before' | 'after') =>
  order(edit(template, 'Move', (d) => dropNodes(d, [dragged], target, side))?.template ?? template);
const START = 's1 a b g s2 full in d e';

test.each([
  ['a', 'b', 'after', 's1 b a g s2 full in d e'],
  ['b', 'a', 'before', 's1 b a g s2 full in d e'],
  ['a', 'b', 'before', START],
  ['a', 'g', 'after', 's1 b g a s2 full in d e'],
  ['a', 'in', 'after', 's1 b g s2 full in a d e'],
  ['a', 'd', 'after', 's1 b g s2 full in d e a'],
  ['a', 'e', 'after', 's1 b g s2 full in d e a'],
  ['d', 'a', 'before', 's1 d e a b g s2 full in'],
  ['a', 's2', 'after', 's1 b g s2 full in a d e'],
  ['a', 's2', 'before', 's1 b g s2 a full in d e'],
  ['s2', 'a', 'before', 's2 full in d e s1 a b g'],
  ['full', 'in', 'after', START],
  ['e', 'a', 'before', START],
  ['s1', 's1', 'after', START],
  ['nowhere', 'a', 'after', START],
] as const)('%s dropped on %s, %s it', (dragged, target, side, ids) => {
  expect(dropped(dragged, target, side)).toBe(ids);
});

test('whatever is dropped wherever, nothing is lost and the template stays sound', () => {
  const ids: string[] = [];
  walkNodes(template, ({ node }) => void ids.push(node.id));
  fc.assert(
    fc.property(
      fc.constantFrom(...ids),
      fc.constantFrom(...ids),
      fc.constantFrom('before' as const, 'after' as const),
      (dragged, target, side) => {
        const done = edit(template, 'Move', (d) => dropNodes(d, [dragged], target, side));
        expect(done === null).toBe(!canDrop(template, [dragged], target, side));
        if (!done) return;
        const now: string[] = [];
        walkNodes(done.template, ({ node }) => void now.push(node.id));
        expect([...now].sort()).toEqual([...ids].sort());
        expect(readTemplate(JSON.parse(JSON.stringify(done.template)))).toMatchObject({ ok: true });
      },
    ),
    { numRuns: 300 },
  );
});

test.each([
  [['a', 'b'], 'g', 'after', 's1 g a b s2 full in d e'],
  [['a', 'g'], 'b', 'after', 's1 b a g s2 full in d e'],
  [['a', 'g'], 'b', 'before', 's1 a g b s2 full in d e'],
  [['a', 'in'], 'd', 'before', 's1 b g s2 full a in d e'],
  [['a', 'b'], 'in', 'before', 's1 g s2 full a b in d e'],
  [['a', 'b'], 'b', 'after', START],
  [['a', 's2'], 'b', 'after', START],
  [['a', 'nowhere'], 'b', 'after', START],
  [[], 'b', 'after', START],
] as const)(
  '%j dropped on %s, %s it, stay together in their order',
  (dragged, target, side, ids) => {
    const done = edit(template, 'Move', (d) => dropNodes(d, dragged, target, side));
    expect(order(done?.template ?? template)).toBe(ids);
    expect(canDrop(template, dragged, target, side)).toBe(done !== null);
  },
);

test('what cannot leave where it is holds up none of those that were taken with it', () => {
  const [one, two] = template.sections.map(({ columns }) => columns.map(({ id }) => id));
  const [only = '', first = '', second = ''] = [one?.[0], two?.[0], two?.[1]];
  const done = edit(template, 'Move', (d) => dropNodes(d, [only, second], first, 'before'));
  expect(done?.template.sections.map(({ columns }) => columns.map(({ id }) => id))).toEqual([
    [only],
    [second, first],
  ]);
});
