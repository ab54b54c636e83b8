import type { OutboxState } from '@carafe/contract';

export const STATE_WORDS: Record<OutboxState, string> = {
  waiting: 'Waiting',
  held: 'Held',
  ready: 'Ready',
  sending: 'Sending',
  sent: 'Sent',
  in_doubt: 'In doubt',
  stopped: 'Stopped',
  bounced: 'Bounced',
};
