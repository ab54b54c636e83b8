import type { AttentionItem } from '@carafe/contract';
import type { CrowdsRepository } from '../occasions/crowdsRepository';
import type { OccasionsRepository } from '../occasions/repository';
import type { OutboxRepository } from '../outbox/repository';
import type { Sender } from '../outbox/sender';
import type { ShopsRepository } from '../shops/repository';

interface AttentionDependencies {
  shops: Pick<ShopsRepository, 'list'>;
  occasions: Pick<OccasionsRepository, 'find'>;
  crowds: Pick<CrowdsRepository, 'asking'>;
  outbox: Pick<OutboxRepository, 'heldBy' | 'count'>;
  sender: Pick<Sender, 'state'>;
}

/** What waits for an answer, or does not go on by itself: every screen shows it. */
export function attentionItems(dependencies: AttentionDependencies): AttentionItem[] {
  const { shops, occasions, crowds, outbox, sender } = dependencies;
  const waiting = crowds.asking().map((crowd): AttentionItem => ({
    ...{ kind: 'crowd', ...crowd, held: outbox.heldBy(crowd.occasion, 'crowd') },
    name: occasions.find(crowd.occasion)?.occasion.name ?? 'An occasion that was deleted',
  }));
  const { paused, until } = sender.state();
  const doubts = shops.list().flatMap(({ id: shop }): AttentionItem[] => {
    const emails = outbox.count({ shop, state: 'in_doubt' });
    return emails === 0 ? [] : [{ kind: 'in_doubt', shop, emails }];
  });
  return [
    ...waiting,
    ...(paused === null
      ? []
      : [
          {
            ...{ kind: 'paused' as const, why: paused },
            until: until === null ? null : new Date(until).toISOString(),
          },
        ]),
    ...doubts,
  ];
}
