import fc from 'fast-check';
import { feedsThen } from '.';
import type { Fields } from '../formula';

const DAY = 86_400_000;
const START = Date.parse('2026-10-01T00:00:00Z');
const feedOf = (days: readonly (number | null)[]): Fields => ({
  furrow: {
    title: 'The Furrow',
    posts: days.map((day, i) => ({
      title: `Post ${i}`,
      ...(day !== null && { published_at: new Date(START + day * DAY) }),
    })),
  },
  quiet: { title: 'Nothing yet', posts: [] },
});
const titles = (feeds: Fields) =>
  ((feeds['furrow'] as Fields)['posts'] as Fields[]).map(({ title }) => title);

test('of a past day a feed has the posts that were out, and those without a date', () => {
  const then = feedsThen(feedOf([4, null, 2, 0]));
  expect(titles(then(START - 1))).toEqual(['Post 1']);
  expect(titles(then(START + 2 * DAY))).toEqual(['Post 1', 'Post 2', 'Post 3']);
  expect(titles(then(START + 9 * DAY))).toEqual(['Post 0', 'Post 1', 'Post 2', 'Post 3']);
  expect(then(START)['quiet']).toEqual({ title: 'Nothing yet', posts: [] });
});

test('at any instant the posts are those that were out; where nothing came out in between, the very same feeds', () => {
  const day = fc.integer({ min: 0, max: 20 });
  fc.assert(
    fc.property(fc.array(fc.option(day), { maxLength: 8 }), day, day, (days, a, b) => {
      const feeds = feedOf(days);
      const then = feedsThen(feeds);
      const out = (at: number) =>
        days.flatMap((one, i) => (one === null || one <= at ? [`Post ${i}`] : []));
      expect(titles(then(START + a * DAY))).toEqual(out(a));
      const isSame = out(a).join() === out(b).join();
      expect(then(START + a * DAY) === then(START + b * DAY)).toBe(isSame);
    }),
  );
});

test('what is no feed stays as it is', () => {
  const feeds = { odd: 'x', none: null, list: [1] } as unknown as Fields;
  expect(feedsThen(feeds)(0)).toBe(feeds);
});
