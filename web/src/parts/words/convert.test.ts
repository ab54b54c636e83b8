import {
  composer,
  countedIds,
  fromRunning,
  readTemplate,
  blankTemplate,
} from '@carafe/core/template';
import { inlinesOf, toRichText } from './convert';

const document = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      attrs: { textAlign: null },
      content: [
        { type: 'text', text: 'Hello ', marks: [{ type: 'bold' }, { type: 'unknown' }] },
        { type: 'tag', attrs: { formula: 'a', extra: 1 } },
        { type: 'hardBreak' },
        { type: 'image', attrs: { src: 'x' } },
        {
          type: 'text',
          text: 'there',
          marks: [{ type: 'link', attrs: { href: 'https://x.example', class: null } }],
        },
      ],
    },
    { type: 'paragraph' },
    {
      type: 'bulletList',
      content: [
        {
          type: 'listItem',
          content: [{ type: 'paragraph', content: [{ type: 'text', text: 'one' }] }],
        },
      ],
    },
    { type: 'blockquote', content: [] },
  ],
};

test('an editor’s document keeps what a template knows and leaves the rest out', () => {
  const text = toRichText(document);
  expect(text.content).toEqual([
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Hello ', marks: [{ type: 'bold' }] },
        { type: 'tag', attrs: { formula: 'a' } },
        { type: 'hardBreak' },
        {
          type: 'text',
          text: 'there',
          marks: [{ type: 'link', attrs: { href: 'https://x.example' } }],
        },
      ],
    },
    { type: 'paragraph' },
    {
      type: 'bulletList',
      content: [
        {
          type: 'listItem',
          content: [{ type: 'paragraph', content: [{ type: 'text', text: 'one' }] }],
        },
      ],
    },
  ]);
  const c = composer(countedIds());
  expect(readTemplate(blankTemplate('T', 's', [c.section('S', [c.text(text)])]))).toMatchObject({
    ok: true,
  });
});

test('inlines from running text come back the same', () => {
  const inlines = fromRunning('Hello {{ a }} and {{ b otherwise "c" }}');
  expect(inlinesOf(inlines)).toEqual(inlines);
});

test('lists in lists stay, those too deep on the deepest level; long words are kept in pieces', () => {
  const deep = (depth: number): object => ({
    type: 'bulletList',
    content: [
      {
        type: 'listItem',
        content: [
          { type: 'paragraph', content: [{ type: 'text', text: `level ${depth}` }] },
          ...(depth < 9 ? [deep(depth + 1)] : []),
        ],
      },
    ],
  });
  const long = `${'a'.repeat(19_999)}\u{1F331}${'b'.repeat(30_000)}`;
  const text = toRichText({
    type: 'doc',
    content: [deep(1), { type: 'paragraph', content: [{ type: 'text', text: long }] }],
  });
  const said = JSON.stringify(text);
  for (let level = 1; level <= 9; level++) expect(said).toContain(`level ${level}`);
  const [, paragraph] = text.content;
  const inlines = paragraph?.type === 'paragraph' ? (paragraph.content ?? []) : [];
  expect(inlines.map((inline) => (inline.type === 'text' ? inline.text.length : 0))).toEqual([
    19_999, 20_000, 10_002,
  ]);
  const c = composer(countedIds());
  expect(readTemplate(blankTemplate('T', 's', [c.section('S', [c.text(text)])]))).toMatchObject({
    ok: true,
  });
});
