import { roomBefore } from './besideSteps';

test('a line stands at the height of its step, and below the line before it', () => {
  const line = (step: number | null, height = 20) => ({ step, height });
  expect(roomBefore([line(null), line(150), line(160), line(400)], 100, 10)).toEqual([
    0, 20, 0, 190,
  ]);
  // Where the list is below the steps altogether, it is a plain list.
  expect(roomBefore([line(10), line(20)], 500, 10)).toEqual([0, 0]);
});
