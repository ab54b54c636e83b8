import { FormatError } from '@carafe/core/formats';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { fetchAddress, FETCH_LIMITS } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import type { Import } from '../imports/repository';
import type { ImportsService } from '../imports/service';
import type { LiveUpdates } from '../live/liveUpdates';
import type { NewJob } from '../queue/jobsRepository';
import type { Source, SourcesRepository } from '../sources/repository';

const MINUTE = 60_000;

/** When a source is to be fetched next; null where it is fetched by hand. */
export function nextFetch(every: number | null, from: Date): string | null {
  return every === null ? null : new Date(from.getTime() + every * MINUTE).toISOString();
}

interface Given {
  store: Pick<Store, 'write'>;
  sources: Pick<SourcesRepository, 'due' | 'find' | 'nextFetch' | 'failed'>;
  enqueue: (job: NewJob) => Promise<void>;
  imports: ImportsService;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  self: () => string;
  token?: string | undefined;
}

/** Fetches addresses into their sources. */
export class FetchService {
  constructor(private readonly given: Given) {}

  /** Fetches a source's address into a new import, not yet looked at. */
  async receive(source: Source): Promise<Import> {
    const { imports, self, token } = this.given;
    if (!source.address) throw new Refusal(422, 'This source has no address to fetch.');
    const rules = { self: self(), token, ...FETCH_LIMITS };
    const { url, body } = await fetchAddress(source.address, rules);
    const name = url.pathname.split('/').filter(Boolean).at(-1) ?? url.host;
    return imports.receive(source, name, body);
  }

  /** Fetches a source and imports what came; a failure is kept with the source, and what was there stands. */
  async fetchNow(source: Source): Promise<void> {
    const { store, sources, imports, updates, log, now } = this.given;
    const at = now();
    await store.write(() => sources.nextFetch(source.id, nextFetch(source.every_minutes, at)));
    try {
      await imports.takeBySelf(await this.receive(source));
    } catch (error) {
      const isKnown = error instanceof Refusal || error instanceof FormatError;
      if (!isKnown) log.error(error);
      const message = isKnown ? error.message : 'It could not be imported; the log says more.';
      await store.write(() => sources.failed(source.id, message, at.toISOString()));
    }
    updates.publish({ type: 'source', id: source.id });
  }

  /** Has every source fetched whose time has come: each is a job of its own, so that a slow one holds up no other. */
  async fetchDue(): Promise<void> {
    const { sources, now, enqueue } = this.given;
    const at = now();
    for (const { id, name } of sources.due(at.toISOString()))
      await enqueue({ kind: 'fetch', key: id, payload: { name }, runAt: at.getTime() });
  }

  /** Fetches a source by its id; one that was deleted meanwhile is nothing to fetch. */
  async fetchById(id: string): Promise<void> {
    const source = this.given.sources.find(id);
    if (source) await this.fetchNow(source);
  }
}
