import type { TemplateHealth } from '@carafe/contract';
import { ago } from './ago';
import { counted, figure } from '@carafe/core/words';

/** What the latest change of data did to the mail of a template, in sentences; empty where it did nothing. */
export function healthWords(
  { at, people, changed, errors, held }: TemplateHealth,
  now: Date,
): string {
  return [
    changed > 0 &&
      `With the data that came ${ago(at, now)}, ${figure(changed)} of ${counted(people, 'person', 'people')} ${changed === 1 ? 'gets' : 'get'} a different email than before.`,
    errors.length > 0 && `${counted(errors.length, 'error')}: ${errors[0] ?? ''}`,
    held !== null && 'Its emails are held.',
  ]
    .filter((sentence) => sentence !== false)
    .join(' ');
}
