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

const FACT = 'language:';

export const language = defineCheck({
  name: 'language',
  label: 'Everybody gets their language',
  find({ template, sites, survey }) {
    const own = languageOf(template.language);
    // A condition on the language says that there are words for others.
    if (own === '' || sites.some(({ source }) => /person\.(?:locale|language)/.test(source)))
      return [];
    const others = Object.entries(survey?.facts ?? {})
      .filter(([name]) => name.startsWith(FACT) && name !== FACT + own)
      .sort(([, a], [, b]) => b.people - a.people);
    const [first] = others;
    if (!survey || !first) return [];
    const people = others.reduce((sum, [, fact]) => sum + fact.people, 0);
    const read = others.map(([name]) => nameOfLanguage(name.slice(FACT.length))).join(' and ');
    return [
      {
        ...{ severity: 'hint' as const, node: '', path: 'language', people },
        person: first[1].person,
        message: `The words are ${nameOfLanguage(template.language)}, and ${ofPeople(people, survey.people)} read ${read}. Show other words by a condition on person.locale, or make a template for them.`,
      },
    ];
  },
});
