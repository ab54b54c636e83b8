import type { AttentionItem } from '@carafe/contract';
import type { CrowdsRepository } from '../occasions/crowdsRepository';
import type { OccasionsRepository } from '../occasions/repository';
import type { OutboxRepository } from '../outbox/repository';
import type { Sender } from '../outbox/sender';
import type { JobsRepository } from '../queue/jobsRepository';
import type { JobQueue } from '../queue/queue';
import type { ShopsRepository } from '../shops/repository';

interface AttentionDependencies {
  shops: Pick<ShopsRepository, 'list'>;
  occasions: Pick<OccasionsRepository, 'find'>;
  crowds: Pick<CrowdsRepository, 'asking'>;
  outbox: Pick<OutboxRepository, 'heldBy' | 'count'>;
  sender: Pick<Sender, 'state'>;
  queuedJobs: Pick<JobsRepository, 'asideAll'>;
  queue: Pick<JobQueue, 'nameOf'>;
  /** What is not as it should be with the server. */
  problems: () => readonly string[];
  now: () => Date;
}

/** What waits for an answer, or does not go on by itself: every screen shows it. */
export function attentionItems(dependencies: AttentionDependencies): AttentionItem[] {
  const { shops, occasions, crowds, outbox, sender, queuedJobs, queue, problems } = dependencies;
  const far = dependencies.now().getTime() + 30 * 86_400_000;
  const waiting = crowds.asking().map((crowd): AttentionItem => ({
    ...{ kind: 'crowd', ...crowd, held: outbox.heldBy(crowd.occasion, 'crowd') },
    name: occasions.find(crowd.occasion)?.name ?? 'An occasion that was deleted',
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
    ...queuedJobs.asideAll().map((job): AttentionItem => ({
      ...{ kind: 'set_aside', id: job.id, shop: job.shop, name: queue.nameOf(job.kind) },
      ...{ about: aboutOf(job.payload, job.key), reason: job.last_error ?? '' },
      attempts: job.attempts,
      again_at: job.run_at > far ? null : new Date(job.run_at).toISOString(),
    })),
    ...problems().map((message): AttentionItem => ({ kind: 'problem', message })),
  ];
}

/** Who or what a job is about, in a word. */
function aboutOf(payload: string, key: string): string {
  const { email, name } = (JSON.parse(payload) ?? {}) as { email?: string; name?: string };
  return email ?? name ?? key;
}
