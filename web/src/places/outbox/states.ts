import type { OutboxState } from '@carafe/contract';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

export const STATE_WORDS: Record<OutboxState, string> = {
  waiting: t('waiting'),
  held: t('held'),
  ready: 'Ready',
  sending: 'Sending',
  sent: 'Sent',
  in_doubt: 'In doubt',
  stopped: t('stopped2'),
  bounced: 'Bounced',
};
