import { createInstance } from 'i18next';
import app from './en/app.json';
import desk from './en/desk.json';
import library from './en/library.json';
import mailbox from './en/mailbox.json';
import occasions from './en/occasions.json';
import outbox from './en/outbox.json';
import parts from './en/parts.json';
import people from './en/people.json';
import recommendations from './en/recommendations.json';
import shop from './en/shop.json';
import sources from './en/sources.json';
import templates from './en/templates.json';

/** The sentences of the interface, one file per page. To translate it, add a folder of the same files. */
const en = {
  ...{ app, desk, library, mailbox, occasions, outbox, parts, people, recommendations },
  ...{ shop, sources, templates },
};
type Page = keyof typeof en;
type Values = Readonly<Record<string, string | number | null | undefined>>;

const i18n = createInstance();
void i18n.init({
  lng: 'en',
  resources: { en },
  // The files are part of the program: they are there at once.
  initAsync: false,
  showSupportNotice: false,
  // Keys are names, not paths; React escapes what it shows.
  ...{ keySeparator: false, nsSeparator: false },
  interpolation: { escapeValue: false },
});

/** The sentences of a page by their keys; `values` fill what stands in double braces. */
export function wordsOf<P extends Page>(
  page: P,
): (key: keyof (typeof en)[P] & string, values?: Values) => string {
  const t = i18n.getFixedT(null, page);
  return (key, values) => t(key, { ...values });
}
