import type { PastAsked, PersonData } from '@carafe/core/record';
import type { EventsRepository } from '../events/repository';
import type { OutboxRepository } from '../outbox/repository';

export interface PastParts {
  events: Pick<EventsRepository, 'seenBy'>;
  outbox: Pick<OutboxRepository, 'receivedBy'>;
}

/** Of somebody so many views and emails are read, the latest. */
const MOST = 1_000;

/** A person with what they looked at and received, as far as it is asked for. */
export function withPast(
  { events, outbox }: PastParts,
  shop: string,
  asked: PastAsked,
  data: PersonData,
): PersonData {
  if (!asked.views && !asked.emails) return data;
  const email = String(data.person.email ?? '');
  const views = () =>
    events
      .seenBy(shop, email)
      .flatMap(({ kind, sku, at }) => (kind === 'viewed' ? [{ sku, at }] : []))
      .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0))
      .slice(-MOST);
  return {
    ...data,
    past: {
      ...(asked.views && { views: views() }),
      ...(asked.emails && { emails: outbox.receivedBy(shop, email, MOST) }),
    },
  };
}
