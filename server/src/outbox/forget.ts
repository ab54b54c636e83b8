import type { OutboxState } from '@carafe/contract';
import type { Store } from '../database/store';
import type { StatesRepository } from '../occasions/statesRepository';
import type { OutboxRepository } from './repository';

/** Nothing more becomes of mails in these states: their bytes may go. */
const ENDED: readonly OutboxState[] = ['sent', 'stopped', 'bounced'];
/** So many are looked at, and forgotten, at a time: others write meanwhile. */
const SLICE = 500;

/**
 * Forgets the bytes of mails that were made before an instant (ISO 8601) and have come to their end; that there was such a mail is
 * kept. Mails are looked at in the order in which they were filled, up to those that are young.
 */
export async function forgetOld(
  store: Pick<Store, 'write'>,
  outbox: Pick<OutboxRepository, 'keptAfter' | 'forgetSources'>,
  before: string,
): Promise<void> {
  for (let after = 0; ;) {
    const mails = outbox.keptAfter(after, SLICE);
    const old = mails.filter(({ made_at }) => made_at < before);
    if (old.length === 0) return;
    const ended = old.flatMap(({ id, state }) => (ENDED.includes(state) ? id : []));
    await store.write(() => outbox.forgetSources(ended));
    after = mails.at(-1)?.place ?? after;
  }
}

/** Forgets what occasions did before an instant (milliseconds), the oldest first. */
export async function forgetTold(
  store: Pick<Store, 'write'>,
  states: Pick<StatesRepository, 'forgetTrail'>,
  before: number,
): Promise<void> {
  while ((await store.write(() => states.forgetTrail(before, SLICE))) === SLICE);
}
