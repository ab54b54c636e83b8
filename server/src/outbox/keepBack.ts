import type { SendAnswer } from '@carafe/core/sending';
import type { OutboxRepository } from './repository';

/** Stops, holds or postpones an email that the rule of sending keeps back; false where it is no longer in the state. */
export function keepBack(
  outbox: Pick<OutboxRepository, 'move' | 'hold' | 'postpone'>,
  id: string,
  from: 'waiting' | 'ready',
  answer: Exclude<SendAnswer, { kind: 'send' }>,
  reason: string,
): boolean {
  switch (answer.kind) {
    case 'stop':
      return outbox.move(id, from, 'stopped', reason);
    case 'hold':
      return outbox.hold(id, from, answer.why, reason);
    case 'postpone':
      return outbox.postpone(id, from, answer.until, reason);
  }
}
