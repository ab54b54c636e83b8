import type { Store } from '../database/store';
import { LocalLane, type WriteLane } from '../database/lane';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { Source } from '../sources/repository';
import type { ImportFiles } from './files';
import type { Import, ImportsRepository } from './repository';
import type { ImportStates } from './states';
import type { ApplyTask, ImportJobs } from './task';

interface Given {
  store: Pick<Store, 'write'>;
  imports: ImportsRepository;
  jobs: Jobs<Pick<ImportJobs, 'apply' | 'undo' | 'recover'>>;
  now: () => Date;
}

/** Imports checked files into their sources, all or nothing, and goes one step back. */
export class Applying {
  /** One file is imported at a time; what else is written goes on meanwhile. */
  private readonly lane: WriteLane = new LocalLane();

  constructor(
    private readonly states: ImportStates,
    private readonly files: ImportFiles,
    private readonly given: Given,
  ) {}

  /** Makes good what the last stop has cut off. */
  async recover(): Promise<void> {
    const { store, imports, jobs } = this.given;
    const now = this.given.now().toISOString();
    await store.write(() => imports.interrupted());
    for (const id of await jobs.run('recover', { now })) this.states.publish(id);
  }

  /** Imports a checked file, all or nothing. */
  async apply(id: string): Promise<Import> {
    const one = this.states.find(id);
    const source = this.states.sourceOf(one.source);
    if (one.state !== 'checked' || !one.settings)
      throw new Refusal(409, 'Check the file before you import it.');
    const later = this.given.imports.lastTaken(source.id);
    if (later?.applied_at && later.applied_at > one.made_at && later.id !== id)
      throw new Refusal(
        409,
        'Another file was imported since this one was checked. Check it again.',
      );
    await this.lane.turn(() => this.applyNow(id, source));
    // Some rows may have been rejected only now.
    this.files.forget({ ...one, counts: this.states.find(id).counts });
    return this.told(id, source);
  }

  private async applyNow(id: string, { id: source, shop, target }: Source): Promise<void> {
    const { state, file, settings, mode } = this.states.find(id);
    // Somebody may have asked twice, and the first was done meanwhile.
    if (state !== 'checked' || !settings)
      throw new Refusal(409, 'This file was imported already, or discarded.');
    await this.states.during(id, async ({ progress }) => {
      await this.states.change(id, { state: 'applying', message: null });
      try {
        const task: ApplyTask = {
          ...{ import: id, source, shop, target, settings, mode },
          staging: `${file}.staging`,
          now: this.given.now().toISOString(),
        };
        await this.given.jobs.run('apply', task, { progress });
      } catch (error) {
        await this.states.change(id, { state: 'checked' });
        throw error;
      }
    });
  }

  /** Goes back to what was there before the last file. */
  async undo(id: string): Promise<Import> {
    const one = this.states.find(id);
    const source = this.states.sourceOf(one.source);
    if (!this.states.summary(one).undoable)
      throw new Refusal(409, 'Only the last import of a source can be undone.');
    await this.lane.turn(() => {
      const { counts } = this.states.find(id);
      if (!this.states.summary(this.states.find(id)).undoable)
        throw new Refusal(409, 'This import was already undone.');
      const { id: from, shop, target } = source;
      const rows = (counts?.new ?? 0) - (counts?.gone ?? 0);
      const now = this.given.now().toISOString();
      return this.given.jobs.run('undo', { import: id, source: from, shop, target, rows, now });
    });
    return this.told(id, source);
  }

  private told(id: string, source: Source): Import {
    this.states.publishSource(source);
    this.states.publish(id);
    return this.states.find(id);
  }
}
