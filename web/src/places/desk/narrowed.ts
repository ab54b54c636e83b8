import type { RecipientFilter } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Whom a search and a filter leave, in words. */
export function narrowedTo(search: string, filter: RecipientFilter): string {
  const { language, country, name, lines, orders, consent } = filter;
  return [
    search !== '' && t('thoseWithSearch', { search }),
    language && t('languageLanguage', { language }),
    country && t('countryCountry', { country }),
    name && t('noName2'),
    lines && t('linesInTheCartOrMore', { lines: counted(lines, 'line') }),
    orders && (orders === 'some' ? t('withAnOrder2') : t('withoutAnOrder')),
    consent && (consent === 'yes' ? t('withConsent2') : t('withoutConsent2')),
  ]
    .filter(Boolean)
    .join(', ');
}
