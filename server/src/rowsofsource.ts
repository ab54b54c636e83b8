import type { RowPage } from '@carafe/contract';
import { ProfileBuilder, type FieldProfile } from '@carafe/core/shape';
import type { Store } from './db';
import type { Source } from './db/sources';
import type { Jobs } from './jobs/work';
import { Latest } from './latest';

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
  private readonly selections = new Latest<number[]>();
  private readonly profiles = new Latest<FieldProfile[]>();

  constructor(
    private readonly store: Store,
    private readonly jobs: Jobs,
    private readonly now: () => Date,
  ) {}

  /** A page of rows; events are a shop's, the latest first. */
  async page(source: Source, asked: Asked): Promise<RowPage> {
    const { q, filter, sort, descending, offset, limit } = asked;
    const { id, revision, target, shop } = source;
    const { store } = this;
    const eventsOf = target === 'events' ? shop : null;
    const isPlain = q.trim() === '' && filter.trim() === '' && sort === undefined;
    if (isPlain)
      return eventsOf === null
        ? { total: store.entries.count(id), rows: store.entries.page(id, limit, offset) }
        : {
            total: store.events.count(eventsOf).n,
            rows: store.events.rows(eventsOf, limit, offset),
          };
    const now = this.now().toISOString();
    const query = { source: id, eventsOf, q, filter, sort: sort ?? null, descending, now };
    const held = eventsOf === null ? revision : store.events.count(eventsOf).n;
    const question = JSON.stringify([id, held, q, filter, sort, descending]);
    const ids = await this.selections.get(question, () => this.jobs.run('select', query));
    const wanted = ids.slice(offset, offset + limit);
    const rows = eventsOf === null ? store.entries.some(wanted) : store.events.some(wanted);
    return { total: ids.length, rows };
  }

  /** What a source holds, field by field; worked out once for what it holds now. */
  async profile({ id, revision, target, shop }: Source): Promise<{
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
    return { rows: store.entries.count(id), fields };
  }
}
