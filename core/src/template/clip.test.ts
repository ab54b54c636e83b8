import fc from 'fast-check';
import {
  blankTemplate,
  childrenOf,
  chosenNodes,
  clipOf,
  composer,
  countedIds,
  edit,
  findNode,
  pasteNodes,
  placeAtEnd,
  readClip,
  readTemplate,
  unwrapGroup,
  walkNodes,
  wrapInGroup,
  type Block,
  type Template,
} from '.';

const newId = countedIds();
const c = composer(newId);
function sample(): Template {
  return blankTemplate('T', 's', [
    c.section('One', [c.heading('A', { id: 'a' }), c.block('group', { id: 'g' })], { id: 's1' }),
    c.section('Two', [c.text('B', { id: 'b', when: 'x', else: c.text('C', { id: 'e' }) })], {
      id: 's2',
    }),
  ]);
}
const ids = (template: Template) => {
  const all: string[] = [];
  walkNodes(template, ({ node }) => void all.push(node.id));
  return all;
};
function pasted(clip: string, after: string): { template: Template; pasted: string[] } {
  const read = readClip(clip);
  if (!read?.ok) throw new Error('It can be read.');
  let found: string[] = [];
  const done = edit(sample(), 'Paste', (draft) => {
    found = pasteNodes(draft, read.nodes, after, newId);
  });
  return { template: done?.template ?? sample(), pasted: found };
}
const of = (id: string) => {
  const node = findNode(sample(), id)?.node;
  if (!node) throw new Error(`There is no ${id}.`);
  return clipOf(node);
};

describe('what is copied', () => {
  test.each([
    ['a block behind a block', 'a', 'b'],
    ['a block with its else into an empty group', 'b', 'g'],
    ['a block to the end of a section', 'a', 's2'],
    ['a block behind what an else stands in for', 'a', 'e'],
    ['a section behind the section of a block', 's2', 'a'],
  ])('is pasted: %s', (_, from, after) => {
    const { template, pasted: found } = pasted(of(from), after);
    expect(found).toHaveLength(1);
    const all = ids(template);
    expect(new Set(all).size).toBe(all.length);
    expect(ids(template).length).toBeGreaterThan(ids(sample()).length);
    expect(readTemplate(JSON.parse(JSON.stringify(template)))).toMatchObject({ ok: true });
  });
  test('of a column are its blocks', () => {
    const column = findNode(sample(), 's1')?.node;
    if (column?.kind !== 'section' || !column.columns[0]) throw new Error('It has a column.');
    const read = readClip(clipOf(column.columns[0]));
    expect(read?.ok && read.nodes.map(({ kind }) => kind)).toEqual(['heading', 'group']);
  });
  test('what is none of it is left to others; what is broken is told', () => {
    expect(readClip('Hello')).toBeNull();
    expect(readClip('{"a":1}')).toBeNull();
    expect(readClip(of('a').slice(0, -5))).toMatchObject({ ok: false, message: /cut off/ });
    expect(readClip(of('a').replace('heading', 'hologram'))).toMatchObject({
      ok: false,
      message: /cannot be pasted into a template/,
    });
    fc.assert(fc.property(fc.string(), (text) => void readClip(text)));
  });
});

test('a block is put into a group, and the group is taken apart again', () => {
  const before = sample();
  const wrapped = edit(before, 'Group', (draft) => void wrapInGroup(draft, ['a'], 'new'));
  expect(wrapped && findNode(wrapped.template, 'a')?.parents.at(-1)?.id).toBe('new');
  const apart = wrapped && edit(wrapped.template, 'Ungroup', (d) => void unwrapGroup(d, 'new'));
  expect(apart?.template).toEqual(before);
  // Sections, elses and empty groups stay.
  for (const id of ['s1', 'nowhere'])
    expect(edit(before, 'Group', (draft) => void wrapInGroup(draft, [id], 'new'))).toBeNull();
  expect(edit(before, 'Ungroup', (draft) => void unwrapGroup(draft, 'g'))).toBeNull();
});

describe('several nodes at once', () => {
  const texts = ['One', 'Two', 'Three'].map((words) => c.text(words) as Block);
  const several = blankTemplate('T', 's', [c.section('S', texts)]);
  const ids = texts.map(({ id }) => id);
  const section = several.sections[0]?.id ?? '';

  test('are meant in reading order, each once', () => {
    const meant = (...some: string[]) => chosenNodes(several, some).map(({ id }) => id);
    expect(meant(ids[2] ?? '', ids[0] ?? '')).toEqual([ids[0], ids[2]]);
    expect(meant(ids[1] ?? '', section)).toEqual([section]);
    expect(meant('nothing')).toEqual([]);
  });

  test('are copied together, and put into one group', () => {
    const read = readClip(clipOf(...chosenNodes(several, [ids[0] ?? '', ids[2] ?? ''])));
    expect(read?.ok && read.nodes).toHaveLength(2);
    const done = edit(several, 'Group', (draft) => void wrapInGroup(draft, ids, 'g'));
    const [group, ...rest] = done?.template.sections[0]?.columns[0]?.blocks ?? [];
    expect(rest).toEqual([]);
    expect(group && childrenOf(group).map(({ id }) => id)).toEqual(ids);
  });
});

test('where nothing is selected, what is new comes at the end of the mail, above its foot', () => {
  const section = (name: string, ...blocks: Block[]) => c.section(name, blocks, { id: name });
  const link = c.block('button', { href: '{{ links.unsubscribe }}' });
  const at = (...sections: Template['sections']) => placeAtEnd(blankTemplate('T', 's', sections));
  const [head, body] = [section('head'), section('body', c.heading('A'))];
  expect(at(head, body, section('ways', link))).toBe('body');
  expect(at(head, body, section('ways', link), section('foot', c.block('foot')))).toBe('body');
  expect(at(head, body)).toBe('body');
  expect(at(head, section('ways', link), body)).toBe('body');
  expect(at(section('all', link))).toBe('all');
});
