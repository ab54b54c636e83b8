import { blankTemplate, composer, countedIds, placeInWords, readTemplate } from '.';

const c = composer(countedIds());
const template = blankTemplate('T', 'seeds', [
  c.section('First', [
    c.heading('One'),
    Object.assign(c.block('group'), { blocks: [c.button('Buy', 'https://x.example')] }),
  ]),
]);

const tagged = (attrs: unknown) => ({ type: 'paragraph', content: [{ type: 'tag', attrs }] });

test.each([
  ['sections.0.columns.0.blocks.0.when', '“One”, condition'],
  ['sections.0.columns.0.blocks.0.text', '“One”, heading'],
  ['sections.0.columns.0.blocks.1.blocks.0.href', '“Buy”, link'],
  ['sections.0.loop.list', '“First”, loop'],
  ['sections.0.columns.9', '“First”'],
  ['envelope.subject', 'Subject'],
  ['style.radius', 'House style'],
  ['expectations.0.formula', ''],
  ['', ''],
])('the path %j leads to %j', (path, words) => {
  expect(placeInWords(template, path)).toBe(words);
});

test('what cannot be read is named by what it stands in', () => {
  const broken = structuredClone(template) as unknown as {
    sections: { columns: { blocks: Record<string, unknown>[] }[] }[];
  };
  const [block] = broken.sections[0]?.columns[0]?.blocks ?? [];
  Object.assign(block ?? {}, { kind: 'hologram' });
  const read = readTemplate(broken);
  if (read.ok) throw new Error('it was read');
  expect(placeInWords(broken, read.problems[0]?.path ?? '')).toBe('“First”');
});

test.each([
  [{ name: {} }, {}, ''],
  [{}, { kind: 'text', text: { type: 'doc', content: [tagged({})] } }, '“First”'],
  [{}, { kind: 'text', text: { type: 'doc', content: [tagged(null)] } }, '“First”'],
])('names that are none are not said', (section, block, words) => {
  const broken = structuredClone(template) as unknown as {
    sections: { columns: { blocks: Record<string, unknown>[] }[] }[];
  };
  Object.assign(broken.sections[0] ?? {}, section);
  Object.assign(broken.sections[0]?.columns[0]?.blocks[0] ?? {}, block);
  const path = 'sections.0.columns.0.blocks.0.text.content.0.content.0.attrs';
  expect(placeInWords(broken, words === '' ? 'sections.0.name' : path)).toBe(words);
});
