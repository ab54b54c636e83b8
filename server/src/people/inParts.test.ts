import * as fc from 'fast-check';
import { FEW, inParts } from './inParts';

const shopOf = (count: number) => ({
  count: () => count,
  idsAfter: (_: string, after: number, most: number) =>
    Array.from({ length: Math.max(0, Math.min(most, count - after)) }, (_, i) => after + i + 1),
});

/** The sizes of the parts in which a shop’s people are looked at, piece after piece. */
async function sizes(count: number, most: number, part?: number): Promise<number[][]> {
  const pieces: number[][] = [];
  const seen: number[] = [];
  let after: number | null = 0;
  while (after !== null) {
    const run = (ids: number[]) => {
      seen.push(...ids);
      return Promise.resolve(ids.length);
    };
    const done: { parts: number[]; people: number; next: number | null } = await inParts(
      shopOf(count),
      's',
      { after, most },
      run,
      part,
    );
    pieces.push(done.parts);
    expect(done.people).toBe(count);
    after = done.next;
  }
  expect(seen.sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, i) => i + 1));
  return pieces;
}

test('everybody is looked at once, in parts that are even and small enough', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 0, max: 6_000 }),
      fc.integer({ min: 1, max: 4_000 }),
      fc.integer({ min: 300, max: 2_000 }),
      async (count, most, part) => {
        for (const piece of await sizes(count, most, part)) {
          expect(Math.max(...piece)).toBeLessThanOrEqual(Math.max(FEW, part));
          // The last part of a piece may be a few smaller, never larger.
          expect(Math.max(...piece) - Math.min(...piece)).toBeLessThanOrEqual(piece.length);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a few are one thread’s, many are both’s, and nobody is one part of nobody', async () => {
  expect(await sizes(400, 500)).toEqual([[400]]);
  expect(await sizes(0, 500)).toEqual([[0]]);
  expect(await sizes(3_000, 3_000)).toEqual([[1_500, 1_500], [0]]);
});
