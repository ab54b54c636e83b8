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

/** How much longer eight times as much takes; the shortest of some goes, as other work may come between. */
function growth(run: (n: number) => unknown, n: number): number {
  const took = (size: number) =>
    Math.min(
      ...[1, 2, 3].map(() => {
        const start = performance.now();
        run(size);
        return performance.now() - start;
      }),
    );
  took(n);
  return took(8 * n) / Math.max(0.5, took(n));
}

test('what begins in XML and never ends is told where it begins', () => {
  expect(wrong(rss('\n<!-- and no end'))).toBe(
    'Line 2: this is not sound XML. Here begins a comment that never ends.',
  );
  expect(wrong(rss('<?php'))).toContain('a processing instruction that never ends');
  expect(wrong(rss('<item><title><![CDATA[x</title></item>'))).toContain('a CDATA section');
  expect(wrong(rss('a < b'))).toContain('A “<” stands alone');
  expect(wrong(rss('<!-- < & --><?a < ?>'))).toBe('');
});

test.each([
  ['comments that do not end', (n: number) => wrong(rss('<!--'.repeat(n))), 20_000],
  ['instructions that do not end', (n: number) => wrong(rss('<?'.repeat(n))), 20_000],
  ['signs alone', (n: number) => wrong(rss('<'.repeat(n))), 20_000],
  ['blank lines', (n: number) => wrong(rss('\n'.repeat(n))), 100_000],
  ['nested elements of a post', (n: number) => cleanHtml('<div>'.repeat(n)), 4_000],
  ['nested elements of an HTML block', (n: number) => cleaned('<div>'.repeat(n)), 4_000],
  ['words of nested elements', (n: number) => wordsOf('<div>'.repeat(n)), 4_000],
])('eight times as much of it takes no eight times eight as long: %s', (_, run, n) => {
  expect(growth(run, n)).toBeLessThan(32);
});

test('what is nested too deep loses its tags and not its words', () => {
  const deep = `${'<div>'.repeat(5)}<b>words</b><br>${'</div>'.repeat(5)}<p>after</p>`;
  expect(shallowHtml(deep, 3)).toBe('<div><div><div>words<br></div></div></div><p>after</p>');
  expect(shallowHtml(deep, 9)).toBe(deep);
  expect(shallowHtml('</p></p><p>x</p>', 1)).toBe('</p></p><p>x</p>');
});
