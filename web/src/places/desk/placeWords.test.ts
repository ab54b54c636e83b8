import { placeWords } from './placeWords';

test.each([
  ['the first of the list', 0, 0, 6255, '1 of 6,255'],
  ['the first of the list, below somebody who is looked at', 1, 1, 6255, '1 of 6,255'],
  ['the thousandth', 1000, 1, 6255, '1,000 of 6,255'],
  ['nobody', 0, 0, 0, '0 of 0'],
])('%s is counted by its place', (_, index, guests, total, words) => {
  expect(placeWords({ recipient: {}, index, guests, total })).toBe(words);
});

test('who is looked at beside the list is counted nowhere', () => {
  const beside = { index: 0, guests: 1, total: 6255 };
  expect(placeWords({ ...beside, recipient: { made_up: true } })).toBe('Test recipient');
  expect(placeWords({ ...beside, recipient: {} })).toBe('Not in the list');
});
