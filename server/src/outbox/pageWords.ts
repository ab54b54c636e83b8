import { createInstance } from 'i18next';
import de from './words/de.json';
import en from './words/en.json';

export type PageSentence = keyof typeof en;

const i18n = createInstance();
void i18n.init({
  resources: { en: { translation: en }, de: { translation: de } },
  fallbackLng: 'en',
  initAsync: false,
  showSupportNotice: false,
  ...{ keySeparator: false, nsSeparator: false },
});

/** The sentences of the pages that recipients see, in the language of their shop; in English where there are none. */
export function pageWords(locale: string | undefined): {
  language: string;
  say: (sentence: PageSentence) => string;
} {
  const [wanted = ''] = (locale ?? '').toLowerCase().split('-');
  const language = i18n.hasResourceBundle(wanted, 'translation') ? wanted : 'en';
  const t = i18n.getFixedT(language);
  return { language, say: (sentence) => t(sentence) };
}
