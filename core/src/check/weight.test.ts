import { sayWeight, weightFinding, weightOf } from '.';

test('a mail is weighed in bytes, and told where programs would cut it', () => {
  expect(weightOf('é€')).toBe(5);
  expect(weightFinding(100_000)).toBeNull();
  expect(weightFinding(104_400)?.message).toMatch(/weighs 104 KB, and some email clients cut off/);
});

test('a weight is said with a tenth while it is small, and with its thousands', () => {
  expect([0, 17_840, 99_999, 100_000, 4_661_900].map(sayWeight)).toEqual([
    ...['0.0 KB', '17.8 KB', '100.0 KB', '100 KB', '4,662 KB'],
  ]);
});
