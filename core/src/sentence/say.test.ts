import { sayFormula } from '.';

test.each([
  ['mail.subject is filled', 'Mail subject is filled'],
  ['length(mail.subject) <= 60', 'The length of mail subject is at most 60'],
  ['count(cart.lines) >= 2', 'The number of cart lines is at least 2'],
  ['every(mail.pictures, alt is filled)', 'For each of mail pictures: alt is filled'],
  ['not any(cart.lines, in_stock)', 'For none of cart lines: in stock is yes'],
  ['person.country in ["France", "Spain"]', 'Country is one of “France” or “Spain”'],
  ['cart.total > 5 and (person.consent or order is empty)', null],
])('%s is said: %s', (formula, words) => {
  const said = sayFormula(formula);
  if (words === null) expect(said).toContain(' and (');
  else expect(said?.toLowerCase()).toBe(words.toLowerCase());
});

test('what no sentence says is left to its formula', () => {
  expect(sayFormula('cart.total * 2 > 5')).toBeNull();
  expect(sayFormula('')).toBeNull();
});
