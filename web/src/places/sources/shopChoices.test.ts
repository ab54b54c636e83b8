import { currencyChoices, languageChoices, timezoneChoices, withChosen } from './shopChoices';

const labelOf = (choices: { value: string; label: string }[], value: string) =>
  choices.find((one) => one.value === value)?.label;

test('currencies, languages and time zones are called by their names', () => {
  expect(labelOf(currencyChoices(), 'GBP')).toMatch(/pound.*\(GBP\)/i);
  expect(labelOf(languageChoices(), 'de-AT')).toBe('German (Austria)');
  expect(labelOf(timezoneChoices(), 'America/New_York')).toBe('America, New York');
});

test('what is chosen already is among the choices, once', () => {
  const choices = [{ value: 'EUR', label: 'Euro (EUR)' }];
  expect(withChosen(choices, 'EUR')).toBe(choices);
  expect(withChosen(choices, '')).toBe(choices);
  expect(withChosen(choices, 'XTS')[0]).toEqual({ value: 'XTS', label: 'XTS' });
});
