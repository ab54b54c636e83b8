import {
  blankTemplate,
  composer,
  countedIds,
  findNode,
  isBlock,
  itemsOf,
  nodeNames,
  ownerOfElse,
  siblingsOf,
  walkNodes,
  withNewIds,
} from '.';
import { removeNode } from './edit';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [
  c.section(
    'A',
    [
      c.text('one', {
        id: 'one',
        when: 'x',
        else: c.text('other', { id: 'other', when: 'y', else: c.text('last', { id: 'last' }) }),
      }),
    ],
    { id: 'a' },
  ),
  c.columns(
    'B',
    [
      [c.heading('left', { id: 'left' })],
      [c.block('lines', { id: 'lines' }), c.button('b', 'https://b.example', { id: 'button' })],
    ],
    { id: 'b' },
  ),
]);

test('nodes are walked in reading order, an else after what it stands in for', () => {
  const seen: string[] = [];
  walkNodes(template, ({ node, parents, isElse }) => {
    if (isBlock(node)) seen.push(`${node.id} ${parents.length}${isElse ? ' else' : ''}`);
  });
  expect(seen).toEqual(['one 2', 'other 2 else', 'last 2 else', 'left 2', 'lines 2', 'button 2']);
});

test('a node is found with what it stands in', () => {
  const place = findNode(template, 'button');
  expect(place?.parents.map((p) => p.kind)).toEqual(['section', 'column']);
  expect(findNode(template, 'nothing')).toBeUndefined();
});

test('siblings are found, and an else has none', () => {
  expect(siblingsOf(template, 'button')).toMatchObject({ index: 1 });
  expect(siblingsOf(template, 'b')).toMatchObject({ index: 1, parent: null });
  expect(siblingsOf(template, 'other')).toBeUndefined();
  expect(ownerOfElse(template, 'last')?.id).toBe('other');
});

test('taking an else off leaves what it stood in for', () => {
  const draft = structuredClone(template);
  removeNode(draft, 'other');
  expect(findNode(draft, 'one')?.node.else).toBeUndefined();
  expect(findNode(draft, 'last')).toBeUndefined();
  expect(findNode(draft, 'one')).toBeDefined();
});

test('a copy has new ids throughout, its elses too', () => {
  const node = findNode(template, 'one')?.node;
  if (!node) throw new Error('the template has it');
  let count = 0;
  const copy = withNewIds(node, () => `new${++count}`);
  expect([copy.id, copy.else?.id, copy.else?.else?.id]).toEqual(['new1', 'new2', 'new3']);
  expect(node.id).toBe('one');
});

test('cards and lines walk a list of their own', () => {
  const lines = findNode(template, 'lines')?.node;
  expect(lines && itemsOf(lines)?.list).toBe('cart.lines');
  const heading = findNode(template, 'left')?.node;
  expect(heading && itemsOf(heading)).toBeUndefined();
});

test('nodes are named by their words, and what is of the document by its property', () => {
  const nameOf = nodeNames(template);
  expect([nameOf('one'), nameOf('button'), nameOf('last')]).toEqual(['one', 'b', 'last']);
  expect(
    ['subject', 'preview_text', 'style.ink', 'link_tags.0.value'].map((path) => nameOf('', path)),
  ).toEqual(['Subject', 'Preview text', 'House style', 'Link tagging']);
  expect([nameOf(''), nameOf('', 'unsubscribe'), nameOf('zz')]).toEqual([
    ...['Envelope', 'Envelope', 'a deleted part'],
  ]);
});
