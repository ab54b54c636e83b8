import type { EventsTaken } from '@carafe/contract';
import type { ShopEvent } from '@carafe/core/record';
import type { Job, Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { TakeEventsTask, TakenEvents } from './takeEvents';

export interface EventJobs {
  takeEvents: Job<TakeEventsTask, TakenEvents>;
  /** The same for a few, which never stand behind long work. */
  takeFewEvents: Job<TakeEventsTask, TakenEvents>;
}

/** As many as a shop posts while things happen; more are brought in after the fact. */
const FEW = 200;

/** Takes what shops post, and publishes whom it is about. */
export class EventsService {
  constructor(
    private readonly jobs: Jobs<EventJobs>,
    private readonly updates: LiveUpdates,
    private readonly now: () => Date,
    /** Is told whom what happened is about. */
    private readonly heard: (shop: string, ids: number[], events: ShopEvent[]) => void,
  ) {}

  async take(events: unknown[]): Promise<EventsTaken> {
    const now = this.now().toISOString();
    const take = events.length <= FEW ? 'takeFewEvents' : 'takeEvents';
    const { changed, events: news, ...taken } = await this.jobs.run(take, { events, now });
    for (const { shop, ids } of changed) {
      this.updates.publish({ type: 'people', shop, ids });
      if (ids.length > 0)
        this.heard(
          shop,
          ids,
          news.filter((event) => event.shop === shop),
        );
    }
    return taken;
  }
}
