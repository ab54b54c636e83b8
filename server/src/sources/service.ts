import type { ChangeSource, CreateSource, ImportSummary, SourceSummary } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import type { Fields } from '@carafe/core/formula';
import type { Store } from '../database/store';
import { addressOf } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import { importRows } from '../imports/importRows';
import type { ImportsRepository } from '../imports/repository';
import type { ImportsService } from '../imports/service';
import type { Job, Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import { nextFetch, type FetchService } from '../schedule/fetchService';
import type { NewJob } from '../queue/jobsRepository';
import type { ShopsRepository } from '../shops/repository';
import type { EntriesRepository } from './entriesRepository';
import type { Source, SourcesRepository } from './repository';
import { summaryOf } from './status';

export interface SourceJobs {
  /** Puts everybody together anew who has a row in a source; gives whose shops these are. */
  refreshSource: Job<{ source: string; shop: string | null; now: string }, string[]>;
}

interface Given {
  store: Pick<Store, 'write'>;
  sources: SourcesRepository;
  entries: Pick<EntriesRepository, 'drop' | 'find' | 'pageRows'>;
  importsTable: Pick<ImportsRepository, 'of' | 'waiting'>;
  imports: ImportsService;
  shops: Pick<ShopsRepository, 'find'>;
  fetching: FetchService;
  jobs: Jobs<SourceJobs>;
  /** Does a job of the queue, and waits for it. */
  doNow: (job: Omit<NewJob, 'runAt'>) => Promise<void>;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
  self: () => string;
}

/** Hours for which a source is fresh, by how its data comes. */
const FRESH_HOURS = { file: 24 * 30, address: 48, events: 24 * 7, typed: 24 * 365 };

/** A known row without what was worked out of a field that is given anew: whether it is in stock, of its stock. */
function withoutDerived(known: Fields, given: object): Fields {
  if (!('stock' in given) || 'in_stock' in given) return known;
  const { in_stock: _, ...rest } = known as Record<string, unknown>;
  return rest as Fields;
}

/** A row's key as it is kept: addresses in small letters. */
const keyOf = (name: string, value: string): string =>
  name === 'email' ? value.trim().toLowerCase() : value.trim();

/** Where data comes from: added, changed, deleted, typed into. */
export class SourcesService {
  constructor(private readonly given: Given) {}

  find(id: string): Source {
    return this.given.imports.sourceOf(id);
  }

  summary(source: Source): SourceSummary {
    const { importsTable, now } = this.given;
    return summaryOf(source, importsTable.waiting(source.id), now());
  }

  list(): SourceSummary[] {
    return this.given.sources.list().map((source) => this.summary(source));
  }

  withImports(id: string): { source: SourceSummary; imports: ImportSummary[] } {
    const { importsTable, imports } = this.given;
    const source = this.find(id);
    return {
      source: this.summary(source),
      imports: importsTable.of(id).map((one) => imports.summary(one)),
    };
  }

  async create(asked: CreateSource): Promise<SourceSummary> {
    const { store, sources, shops, updates, now, newId, self } = this.given;
    const { shop, name, kind, target, formula_name, address = null, every_minutes = null } = asked;
    if (shop !== null && !shops.find(shop)) throw new Refusal(400, `There is no shop “${shop}”.`);
    if (kind === 'address') addressOf(address ?? '', self());
    const id = newId();
    await store.write(() => {
      this.refuseTaken(target, shop, formula_name, null);
      sources.insert(
        {
          ...{ id, shop, name, kind, target, formula_name, address, every_minutes },
          fresh_hours:
            every_minutes === null ? FRESH_HOURS[kind] : Math.max(1, Math.ceil(every_minutes / 30)),
          // The first file is looked at by somebody: the schedule begins when it was imported.
          next_fetch_at: null,
        },
        now().toISOString(),
      );
    });
    updates.publish({ type: 'source', id });
    return this.summary(this.find(id));
  }

  async change(id: string, asked: ChangeSource): Promise<SourceSummary> {
    const { store, sources, updates, now, self } = this.given;
    const source = this.find(id);
    const { formula_name } = asked;
    if (asked.address !== undefined) addressOf(asked.address, self());
    const every = asked.every_minutes === undefined ? source.every_minutes : asked.every_minutes;
    const next = asked.every_minutes === undefined ? source.next_fetch_at : nextFetch(every, now());
    await store.write(() => {
      if (formula_name !== undefined)
        this.refuseTaken(source.target, source.shop, formula_name, source.id);
      sources.change(source.id, asked, source.settings ? next : null);
    });
    if (formula_name !== undefined) updates.publish({ type: 'shared', shop: source.shop });
    updates.publish({ type: 'source', id: source.id });
    return this.summary(this.find(id));
  }

  /** Formulas tell several of a kind in one shop apart by name. */
  private refuseTaken(
    target: CreateSource['target'],
    shop: string | null,
    name: string,
    but: string | null,
  ): void {
    const { isNamed, formula } = targetOf(target);
    if (!isNamed) return;
    const clash = this.given.sources
      .list()
      .find(
        (other) =>
          other.id !== but &&
          other.target === target &&
          other.formula_name === name &&
          (other.shop === null || shop === null || other.shop === shop),
      );
    if (clash)
      throw new Refusal(
        409,
        `“${clash.name}” is already called ${formula(name) ?? name} in formulas. Choose another name.`,
      );
  }

  async remove(id: string): Promise<void> {
    const { store, sources, now } = this.given;
    const source = this.find(id);
    await store.write(() => sources.remove(source.id, now().toISOString()));
    await this.changed(source);
  }

  async restore(id: string): Promise<SourceSummary> {
    const { store, sources } = this.given;
    if (!(await store.write(() => sources.restore(id))))
      throw new Refusal(404, 'There is no such source.');
    const source = this.find(id);
    await this.changed(source);
    return this.summary(source);
  }

  /** What a source fed is made anew without it, or with it again. */
  private async changed({ id, shop, target }: Source): Promise<void> {
    const { doNow, updates } = this.given;
    updates.publish({ type: 'source', id });
    const { feeds, isOwned } = targetOf(target);
    if (feeds === 'shared') updates.publish({ type: 'shared', shop });
    if (isOwned) await doNow({ kind: 'refresh', key: id, shop });
  }

  /** Puts together anew whoever has a row in a source; also where the source is deleted. */
  async refresh(id: string, shop: string | null): Promise<void> {
    const { jobs, updates } = this.given;
    const now = this.given.now().toISOString();
    for (const one of await jobs.run('refreshSource', { source: id, shop, now }))
      updates.publish({ type: 'people', shop: one, ids: [] });
  }

  /** Rows typed in come as records and go the way of every file. */
  async type(id: string, records: readonly object[]): Promise<ImportSummary> {
    const { imports, entries } = this.given;
    const source = this.find(id);
    // A row that is known changes in the fields that are given, and keeps the others.
    const { key } = targetOf(source.target);
    const merged = records.map((record) => {
      const own = (record as Record<string, unknown>)[key];
      const known = typeof own === 'string' ? entries.find(source.id, keyOf(key, own)) : null;
      return known ? { ...withoutDerived(known, record), ...record } : record;
    });
    const text = merged.map((record) => JSON.stringify(record)).join('\n');
    const one = await imports.receiveText(source, 'typed in', text, 'part');
    const taken = await imports.takeBySelf(one, { format: 'ndjson' });
    if (taken.state === 'applied') return imports.summary(taken);
    const [first] = importRows(entries, taken, 'rejected', 1, 0);
    const why = first?.problems.map((p) => `${p.column}: ${p.message}`).join(' ') ?? '';
    const row = first?.line ? `Row ${first.line}${first.key ? ` (${first.key})` : ''}: ` : '';
    await imports.discard(taken.id);
    throw new Refusal(422, `Nothing was kept. ${row}${why}`);
  }

  async deleteRow(id: string, key: string): Promise<void> {
    const { store, sources, entries, now } = this.given;
    const source = this.find(id);
    if (source.kind !== 'typed')
      throw new Refusal(400, 'Only rows entered by hand can be deleted one by one.');
    await store.write(() => {
      if (!entries.drop(source.id, key)) throw new Refusal(404, 'There is no such row.');
      sources.touched(source.id, -1, now().toISOString());
    });
    await this.changed(source);
  }

  /** Fetches a source's address: for a first look, or as every time. */
  async fetch(id: string) {
    const { fetching, imports } = this.given;
    const source = this.find(id);
    if (source.kind !== 'address') throw new Refusal(400, 'This source has no address.');
    if (source.settings === null) {
      const one = await fetching.receive(source);
      return { look: await imports.look(one.id), source: this.summary(source) };
    }
    await fetching.fetchNow(source);
    return { look: null, source: this.summary(this.find(id)) };
  }

  /** Imports a checked file; a source that is fetched begins to be fetched with its first one. */
  async apply(importId: string): Promise<ImportSummary> {
    const { store, sources, imports, now } = this.given;
    const one = await imports.apply(importId);
    const source = this.find(one.source);
    if (source.kind === 'address' && source.next_fetch_at === null)
      await store.write(() => sources.nextFetch(source.id, nextFetch(source.every_minutes, now())));
    return imports.summary(imports.find(importId));
  }
}
