import fc from 'fast-check';
import {
  blankTemplate,
  composer,
  countedIds,
  edit,
  readTemplate,
  walkNodes,
  wrapInSection,
  type Section,
  type Template,
} from '.';

const newId = countedIds();
const c = composer(newId);
const texts = (...ids: string[]) => ids.map((id) => c.text(id, { id }));
const sections = (template: Template) =>
  template.sections.map(({ columns }) =>
    columns.map(({ blocks }) => blocks.map(({ id }) => id).join(' ')).join(' | '),
  );
const of = (section: Section, ...more: Section[]) => blankTemplate('T', 's', [section, ...more]);
function wrapped(template: Template, ...ids: string[]) {
  let said: ReturnType<typeof wrapInSection> = { ok: false, why: 'apart' };
  const done = edit(template, 'Wrap', (draft) => {
    said = wrapInSection(draft, ids, newId);
  });
  return { said, template: done?.template ?? template, isChanged: done !== null };
}
const letter = () => of(c.section('One', texts('a', 'b', 'c', 'd'), { id: 's1' }));

test.each([
  [
    ['b', 'c'],
    ['a', 'b c', 'd'],
  ],
  [['a'], ['a', 'b c d']],
  [
    ['c', 'd'],
    ['a b', 'c d'],
  ],
])('%j get a section of their own', (ids, expected) => {
  const { template, said } = wrapped(letter(), ...ids);
  expect(sections(template)).toEqual(expected);
  const own = template.sections.find(({ columns }) => columns[0]?.blocks[0]?.id === ids[0]);
  expect(said).toEqual({ ok: true, id: own?.id });
  expect(readTemplate(JSON.parse(JSON.stringify(template)))).toMatchObject({ ok: true });
});

test.each([
  ['a', ['', 'One']],
  ['b', ['One', '', '']],
  ['d', ['One', '']],
])('the section goes on by its name with what is left of it, here without %s', (id, names) => {
  const { template } = wrapped(letter(), id);
  expect(template.sections.map(({ name = '' }) => name)).toEqual(names);
  expect(template.sections.find(({ name }) => name === 'One')?.id).toBe('s1');
});

test('each part looks as the whole did, and shows when it did', () => {
  const { template } = wrapped(
    of({
      ...c.section('One', texts('a', 'b', 'c')),
      ...{ background: '#fbf7f0', when: 'cart.count > 1' },
      columns: [{ kind: 'column', id: 'k', background: '#ffffff', blocks: texts('a', 'b', 'c') }],
    }),
    'b',
  );
  expect(
    template.sections.map(({ name, background, when, columns }) => [
      ...[name, background, when, columns[0]?.background],
    ]),
  ).toEqual([
    ['One', '#fbf7f0', 'cart.count > 1', '#ffffff'],
    [undefined, '#fbf7f0', 'cart.count > 1', '#ffffff'],
    [undefined, '#fbf7f0', 'cart.count > 1', '#ffffff'],
  ]);
});

const loop = { list: 'cart.lines', as: 'line' };
const group = c.block('group', { blocks: texts('in', 'too') } as never);
const full = Array.from({ length: 199 }, (_, i) => c.section(`${i}`, texts(`t${i}`)));
test.each([
  ['a section', letter(), ['s1'], 'no blocks'],
  ['nothing', letter(), [], 'no blocks'],
  ['what is not beside each other', letter(), ['a', 'c'], 'apart'],
  ['what has one already', letter(), ['a', 'b', 'c', 'd'], 'alone'],
  ['what stands in a group', of(c.section('S', [group])), ['in'], 'in a group'],
  ['one of two columns', of(c.columns('S', [texts('a', 'b'), texts('c')])), ['a'], 'in columns'],
  ['what repeats', of(c.section('S', texts('a', 'b'), { loop })), ['a'], 'repeats'],
  ['one more than 200', of(c.section('S', texts('a', 'b', 'c')), ...full), ['b'], 'too many'],
] as const)('%s is left as it is, and told', (_, template, ids, why) => {
  const { said, isChanged } = wrapped(template, ...ids);
  expect(said).toEqual({ ok: false, why });
  expect(isChanged).toBe(false);
});

test('whatever is wrapped, no block is lost, their order stays, and undo is exact', () => {
  const all = ['a', 'b', 'c', 'd', 'e', 'f'];
  const template = of(
    c.section('One', texts(...all.slice(0, 4))),
    c.section('Two', texts('e', 'f')),
  );
  const blocks = (now: Template) => {
    const ids: string[] = [];
    walkNodes(now, ({ node }) => void (all.includes(node.id) && ids.push(node.id)));
    return ids;
  };
  fc.assert(
    fc.property(fc.subarray(all, { minLength: 1 }), (ids) => {
      const { template: now, said, isChanged } = wrapped(template, ...ids);
      expect(isChanged).toBe(said.ok);
      expect(blocks(now)).toEqual(all);
      expect(readTemplate(JSON.parse(JSON.stringify(now)))).toMatchObject({ ok: true });
    }),
  );
});
