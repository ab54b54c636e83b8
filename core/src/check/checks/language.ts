import { defineCheck, ofPeople } from '../define';

const names = new Intl.DisplayNames('en-GB', { type: 'language' });
const languageOf = (tag: string): string => tag.split(/[-_]/)[0]?.toLowerCase() ?? '';
const nameOfLanguage = (tag: string): string => {
  try {
    return names.of(languageOf(tag)) ?? tag;
  } catch {
    return tag;
  }
};

export const language = defineCheck({
  name: 'language',
  label: 'Everybody gets their language',
  find({ template, sites, languages }) {
    const own = languageOf(template.language);
    // A condition on the language says that there are words for others.
    if (sites.some(({ source }) => /person\.(?:locale|language)/.test(source))) return [];
    const all = languages.reduce((sum, { people }) => sum + people, 0);
    const others = languages.filter(({ language: tag }) => tag !== '' && languageOf(tag) !== own);
    const people = others.reduce((sum, one) => sum + one.people, 0);
    if (people === 0 || own === '') return [];
    const read = [...new Set(others.map(({ language: tag }) => nameOfLanguage(tag)))].join(' and ');
    return [
      {
        ...{ severity: 'hint' as const, node: '', path: 'language', people },
        message: `The words are ${nameOfLanguage(template.language)}, and ${ofPeople(people, all)} read ${read}. Show other words by a condition on person.locale, or make a template for them.`,
      },
    ];
  },
});
