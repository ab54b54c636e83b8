import { weightFinding, weightOf } from '.';

test('a mail is weighed in bytes, and told where programs would cut it', () => {
  expect(weightOf('é€')).toBe(5);
  expect(weightFinding(100_000)).toBeNull();
  expect(weightFinding(104_400)?.message).toMatch(/weighs 104 KB, and some mail programs cut off/);
});
