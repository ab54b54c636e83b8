import type { RecipientFilter } from '@carafe/contract';
import { counted } from '@carafe/core/words';

/** Whom a search and a filter leave, in words. */
export function narrowedTo(search: string, filter: RecipientFilter): string {
  const { language, country, name, lines, orders, consent } = filter;
  return [
    search !== '' && `those with “${search}”`,
    language && `language ${language}`,
    country && `country ${country}`,
    name && 'no name',
    lines && `${counted(lines, 'line')} in the cart or more`,
    orders && (orders === 'some' ? 'with an order' : 'without an order'),
    consent && (consent === 'yes' ? 'with consent' : 'without consent'),
  ]
    .filter(Boolean)
    .join(', ');
}
