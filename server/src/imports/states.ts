import { existsSync } from 'node:fs';
import type { ImportSummary } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ShopsRepository } from '../shops/repository';
import type { Source, SourcesRepository } from '../sources/repository';
import type { Import, ImportsRepository } from './repository';

interface Given {
  store: Pick<Store, 'write'>;
  sources: Pick<SourcesRepository, 'find'>;
  imports: ImportsRepository;
  shops: Pick<ShopsRepository, 'list'>;
  updates: LiveUpdates;
}

interface Running {
  progress: number;
  stop: AbortController;
}

/** How every import stands, what is being done with it right now, and who hears of it. */
export class ImportStates {
  private readonly running = new Map<string, Running>();

  constructor(private readonly given: Given) {}

  find(id: string): Import {
    const found = this.given.imports.find(id);
    if (!found) throw new Refusal(404, 'There is no such import.');
    return found;
  }

  /** An import whose file is still there to be read. */
  findWithFile(id: string): Import {
    const found = this.find(id);
    if (!existsSync(found.file))
      throw new Refusal(410, 'This file is no longer kept. Upload it again to see it.');
    return found;
  }

  sourceOf(id: string): Source {
    const found = this.given.sources.find(id);
    if (!found) throw new Refusal(404, 'There is no such source; perhaps it was deleted.');
    return found;
  }

  /** What the page is told of an import. */
  summary(one: Import): ImportSummary {
    const { id, source, state, name, bytes, mode, counts, message, made_at, applied_at } = one;
    const progress = this.running.get(id)?.progress ?? null;
    // One step back is kept: of the file that was taken last, as long as it was not gone back from.
    const undoable = state === 'applied' && this.given.imports.lastTaken(source)?.id === id;
    const told = { id, source, state, name, bytes, mode, counts, message, made_at, applied_at };
    return { ...told, progress, undoable };
  }

  /** Runs work that can be stopped, and whose progress, in rows, is told while it goes on. */
  async during<T>(
    id: string,
    work: (running: { signal: AbortSignal; progress: (rows: number) => void }) => Promise<T>,
  ): Promise<T> {
    const running: Running = { progress: 0, stop: new AbortController() };
    this.running.set(id, running);
    try {
      return await work({
        signal: running.stop.signal,
        progress: (rows) => {
          running.progress = rows;
          this.publish(id);
        },
      });
    } finally {
      this.running.delete(id);
    }
  }

  stop(id: string): void {
    this.running.get(id)?.stop.abort();
  }

  async change(id: string, wanted: Parameters<ImportsRepository['change']>[1]): Promise<void> {
    const { store, imports } = this.given;
    await store.write(() => imports.change(id, wanted));
    this.publish(id);
  }

  publish(id: string): void {
    const one = this.given.imports.find(id);
    if (!one) return;
    const { source, state } = one;
    const progress = this.running.get(id)?.progress ?? null;
    this.given.updates.publish({ type: 'import', id, source, state, progress });
  }

  /** Tells that a source's rows are others now, and what is made of them. */
  publishSource({ id, shop, target }: Source): void {
    const { updates, shops } = this.given;
    updates.publish({ type: 'source', id });
    const { feeds } = targetOf(target);
    if (feeds === 'shared') updates.publish({ type: 'shared', shop });
    if (feeds !== 'people') return;
    for (const one of shops.list())
      if (shop === null || one.id === shop)
        updates.publish({ type: 'people', shop: one.id, ids: [] });
  }
}
