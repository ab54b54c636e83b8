import type { Recipient } from '@carafe/contract';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Where somebody stands among all who are listed. Who is looked at beside the list is counted nowhere. */
export function placeWords(at: {
  recipient: Pick<Recipient, 'made_up'> | undefined;
  index: number;
  /** So many stand above the list. */
  guests: number;
  total: number;
}): string {
  const { recipient, index, guests, total } = at;
  if (recipient && index < guests)
    return recipient.made_up ? t('testRecipient') : t('notInTheList');
  const place = total === 0 ? 0 : index - guests + 1;
  return `${place.toLocaleString('en-GB')} of ${total.toLocaleString('en-GB')}`;
}
