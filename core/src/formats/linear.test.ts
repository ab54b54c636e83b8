import { cleaned } from '../build/rawHtml';
import { cleanHtml, readFeed, wordsOf } from '.';
import { shallowHtml } from './shallowHtml';

const rss = (inside: string) =>
  `<?xml version="1.0"?><rss version="2.0"><channel><title>T</title>${inside}<item><title>A</title></item></channel></rss>`;
const wrong = (text: string): string => {
  try {
    readFeed(text);
    return '';
  } catch (error) {
    return (error as Error).message;
  }
};

test('what begins in XML and never ends is told where it begins', () => {
  expect(wrong(rss('\n<!-- and no end'))).toBe(
    'Line 2: this is not sound XML. Here begins a comment that never ends.',
  );
  expect(wrong(rss('<?php'))).toContain('a processing instruction that never ends');
  expect(wrong(rss('<item><title><![CDATA[x</title></item>'))).toContain('a CDATA section');
  expect(wrong(rss('a < b'))).toContain('A “<” stands alone');
  expect(wrong(rss('<!-- < & --><?a < ?>'))).toBe('');
});

// What grows with the square of the length would take minutes for these.
test.each([
  ['comments that do not end', () => wrong(rss('<!--'.repeat(1_000_000)))],
  ['instructions that do not end', () => wrong(rss('<?'.repeat(1_000_000)))],
  ['signs alone', () => wrong(rss('<'.repeat(1_000_000)))],
  ['nested elements of a post', () => cleanHtml('<div>'.repeat(200_000))],
  ['nested elements of an HTML block', () => cleaned('<div>'.repeat(200_000))],
  ['words of nested elements', () => wordsOf('<div>'.repeat(200_000))],
])('very many are read in a moment: %s', (_, run) => {
  expect(run()).toBeDefined();
});

test('what is nested too deep loses its tags and not its words', () => {
  const deep = `${'<div>'.repeat(5)}<b>words</b><br>${'</div>'.repeat(5)}<p>after</p>`;
  expect(shallowHtml(deep, 3)).toBe('<div><div><div>words<br></div></div></div><p>after</p>');
  expect(shallowHtml(deep, 9)).toBe(deep);
  expect(shallowHtml('</p></p><p>x</p>', 1)).toBe('</p></p><p>x</p>');
});
