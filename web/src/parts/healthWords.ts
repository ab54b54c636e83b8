import type { TemplateHealth } from '@carafe/contract';
import { ago } from './ago';
import { counted, figure } from '@carafe/core/words';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** What the latest change of data did to the mail of a template, in sentences; empty where it did nothing. */
export function healthWords(
  { at, people, changed, errors, held }: TemplateHealth,
  now: Date,
): string {
  return [
    changed > 0 &&
      t('withTheDataThatCameAt', {
        at: ago(at, now),
        changed: figure(changed),
        people: counted(people, 'person', 'people'),
        which: changed === 1 ? 'gets' : 'get',
      }),
    errors.length > 0 && `${counted(errors.length, 'error')}: ${errors[0] ?? ''}`,
    held !== null && t('itsEmailsAreHeld'),
  ]
    .filter((sentence) => sentence !== false)
    .join(' ');
}
