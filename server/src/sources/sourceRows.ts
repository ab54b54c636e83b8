import type { RowPage } from '@carafe/contract';
import { ProfileBuilder, type FieldProfile } from '@carafe/core/shape';
import { LruCache } from '../database/lruCache';
import type { EventsRepository } from '../events/repository';
import type { Job, Jobs } from '../jobs/jobs';
import type { EntriesRepository } from './entriesRepository';
import type { Source } from './repository';
import type { RowQuery } from './selectRows';

export interface RowJobs {
  selectRows: Job<RowQuery, number[]>;
  profile: Job<{ source: string }, FieldProfile[]>;
}

interface Asked {
  q: string;
  filter: string;
  sort?: string | undefined;
  descending: boolean;
  offset: number;
  limit: number;
}

/** The profile of events looks at the latest ones. */
const MAX_EVENTS = 5000;

/** Reads what sources hold: pages of rows, and what their fields hold. */
export class SourceRows {
  private readonly selections = new LruCache<number[]>();
  private readonly profiles = new LruCache<FieldProfile[]>();

  constructor(
    private readonly store: {
      entries: Pick<EntriesRepository, 'page' | 'some'>;
      events: Pick<EventsRepository, 'rows' | 'some'>;
    },
    private readonly jobs: Jobs<RowJobs>,
    private readonly now: () => Date,
  ) {}

  /** A page of rows; events are a shop's, the latest first. */
  async page(source: Source, asked: Asked): Promise<RowPage> {
    const { q, filter, sort, descending, offset, limit } = asked;
    const { id, revision, target, shop, row_count } = source;
    const { store } = this;
    const eventsOf = target === 'events' ? shop : null;
    const isPlain = q.trim() === '' && filter.trim() === '' && sort === undefined;
    if (isPlain)
      return eventsOf === null
        ? { total: row_count, rows: store.entries.page(id, limit, offset) }
        : {
            total: row_count,
            rows: store.events.rows(eventsOf, limit, offset),
          };
    const now = this.now().toISOString();
    const query = { source: id, eventsOf, q, filter, sort: sort ?? null, descending, now };
    const question = JSON.stringify([id, revision, q, filter, sort, descending]);
    const ids = await this.selections.get(question, () => this.jobs.run('selectRows', query));
    const wanted = ids.slice(offset, offset + limit);
    const rows = eventsOf === null ? store.entries.some(wanted) : store.events.some(wanted);
    return { total: ids.length, rows };
  }

  /** What a source holds, field by field; worked out once for what it holds now. */
  async profile({ id, revision, target, shop, row_count }: Source): Promise<{
    rows: number;
    fields: FieldProfile[];
  }> {
    const { store } = this;
    if (target === 'events' && shop !== null) {
      const builder = new ProfileBuilder();
      const events = store.events.rows(shop, MAX_EVENTS, 0);
      for (const { record } of events) builder.add(record);
      return { rows: events.length, fields: builder.fields() };
    }
    const fields = await this.profiles.get(`${id} ${revision}`, () =>
      this.jobs.run('profile', { source: id }),
    );
    return { rows: row_count, fields };
  }
}
