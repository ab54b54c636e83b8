import de from './words/de.json';
import en from './words/en.json';
import { pageWords } from './pageWords';

test('pages speak the language of the shop, and English where there are no sentences in it', () => {
  expect(pageWords('de-AT').say('unsubscribed')).toBe('Sie sind abgemeldet');
  for (const locale of ['en-GB', 'xx', undefined])
    expect(pageWords(locale)).toMatchObject({ language: 'en' });
  expect(pageWords('xx').say('save')).toBe('Save');
});

test('each language has every sentence', () => {
  expect(Object.keys(de).sort()).toEqual(Object.keys(en).sort());
});
