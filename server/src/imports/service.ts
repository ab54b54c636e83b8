import { existsSync, mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportCounts, ImportLook, ImportMode, ImportSummary } from '@carafe/contract';
import { FormatError } from '@carafe/core/formats';
import {
  FileSettings,
  GivenSettings,
  mappingProblems,
  targetOf,
  type Look,
} from '@carafe/core/intake';
import type { Logger } from 'pino';
import type { WriteLane } from '../database/lane';
import { LocalLane } from '../database/lane';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import { Stopped, type Job, type Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ShopsRepository } from '../shops/repository';
import type { Source, SourcesRepository } from '../sources/repository';
import { receiveFile } from './receiveFile';
import type { Import, ImportsRepository } from './repository';
import type { ApplyTask, CheckTask, LookTask, UndoTask } from './task';
import { besides } from './unfold';

/** Work on files that is done beside the server. */
export interface ImportJobs {
  look: Job<LookTask, Look>;
  check: Job<CheckTask, ImportCounts>;
  apply: Job<ApplyTask, null>;
  undo: Job<UndoTask, null>;
  recover: Job<null, string[]>;
}

interface Given {
  store: Pick<Store, 'write'>;
  sources: Pick<SourcesRepository, 'find'>;
  imports: ImportsRepository;
  shops: Pick<ShopsRepository, 'list'>;
  jobs: Jobs<ImportJobs>;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  newId: () => string;
  /** Where files stay while they are looked at. */
  folder: string;
}

/** Past these shares of its rows, a file that comes by itself waits until somebody looked at it. */
const MANY_REJECTED = 0.1;
const MANY_GONE = 0.5;

interface Running {
  progress: number;
  stop: AbortController;
}

/** Brings files into sources: received, looked at, checked, imported, gone back from. */
export class ImportsService {
  private readonly running = new Map<string, Running>();
  /** One file is imported at a time; what else is written goes on meanwhile. */
  private readonly applying: WriteLane = new LocalLane();

  constructor(private readonly given: Given) {
    mkdirSync(given.folder, { recursive: true });
  }

  /** Makes good what the last stop has cut off. */
  async recover(): Promise<void> {
    const { store, imports, jobs } = this.given;
    await store.write(() => imports.interrupted());
    for (const id of await jobs.run('recover', null)) this.publish(id);
  }

  find(id: string): Import {
    const found = this.given.imports.find(id);
    if (!found) throw new Refusal(404, 'There is no such import.');
    return found;
  }

  /** An import whose file is still there to be read. */
  private findWithFile(id: string): Import {
    const found = this.find(id);
    if (!existsSync(found.file))
      throw new Refusal(410, 'This file is no longer kept. Bring it in again to look at it.');
    return found;
  }

  sourceOf(id: string): Source {
    const found = this.given.sources.find(id);
    if (!found) throw new Refusal(404, 'There is no such source; perhaps it was deleted.');
    return found;
  }

  summary(one: Import): ImportSummary {
    const { id, source, state, name, bytes, mode, counts, message, made_at, applied_at } = one;
    const progress = this.running.get(id)?.progress ?? null;
    // One step back is kept: of the file that was taken last, as long as it was not gone back from.
    const undoable = state === 'applied' && this.given.imports.lastTaken(source)?.id === id;
    return {
      id,
      source,
      state,
      name,
      bytes,
      mode,
      counts,
      message,
      made_at,
      applied_at,
      progress,
      undoable,
    };
  }

  /** Keeps what a stream brings as the file of a new import. */
  async receive(source: Source, name: string, body: Readable): Promise<Import> {
    const file = this.newFile();
    return this.begin(source, name, file, await receiveFile(body, file));
  }

  /** The same for what is there already. */
  receiveText(
    source: Source,
    name: string,
    text: string | Uint8Array,
    mode?: ImportMode,
  ): Promise<Import> {
    const file = this.newFile();
    writeFileSync(file, text);
    return this.begin(source, name, file, statSync(file).size, mode);
  }

  private newFile(): string {
    return join(this.given.folder, this.given.newId());
  }

  private async begin(
    source: Source,
    name: string,
    file: string,
    bytes: number,
    given?: ImportMode,
  ): Promise<Import> {
    const { store, imports, now, newId } = this.given;
    const mode = given ?? imports.lastTaken(source.id)?.mode ?? targetOf(source.target).mode;
    const id = newId();
    await store.write(() =>
      imports.insert({ id, source: source.id, file, name, bytes, mode }, now().toISOString()),
    );
    return this.find(id);
  }

  /** What the file shows, read by what was set, else by what the source's last file was read by. */
  async look(id: string, given?: unknown): Promise<ImportLook> {
    const one = this.findWithFile(id);
    const source = this.sourceOf(one.source);
    const kept = given === undefined ? (one.settings ?? source.settings ?? undefined) : given;
    const settings = GivenSettings.parse(kept ?? {});
    const base = { import: this.summary(one), lists: [] as ImportLook['lists'] };
    try {
      const look = await this.lookWith(one, source, settings, given !== undefined);
      const { columns, rows, lists, settings: found } = look;
      return { ...base, settings: found, columns, rows, lists, problem: null };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ...base, settings: kept ?? null, columns: [], rows: [], problem: error.message };
    }
  }

  private lookWith(one: Import, { target }: Source, settings: GivenSettings, isSet: boolean) {
    return this.given.jobs.run('look', { file: one.file, target, settings, isSet });
  }

  /** Begins to check a file row by row; how it goes is told as news. Gives its end. */
  async check(
    id: string,
    asked: { settings: unknown; mode: ImportMode; raise_consent?: boolean | undefined },
  ): Promise<{ done: Promise<Import> }> {
    const one = this.findWithFile(id);
    const source = this.sourceOf(one.source);
    if (!['looking', 'checked', 'failed', 'stopped'].includes(one.state))
      throw new Refusal(409, 'This file is being checked, or was taken already.');
    const settings = FileSettings.parse(asked.settings);
    const target = targetOf(source.target);
    const wrong = source.target === 'events' ? [] : mappingProblems(settings.mapping, target);
    if (wrong.length > 0)
      throw new Refusal(
        422,
        wrong.join(' '),
        wrong.map((message) => ({ path: 'mapping', message })),
      );
    const running: Running = { progress: 0, stop: new AbortController() };
    this.running.set(id, running);
    const { mode, raise_consent = false } = asked;
    await this.change(id, { state: 'checking', settings, mode, message: null, counts: null });
    return { done: this.runCheck(id, source, settings, mode, raise_consent, running) };
  }

  private async runCheck(
    id: string,
    { id: sourceId, shop, target }: Source,
    settings: FileSettings,
    mode: ImportMode,
    raiseConsent: boolean,
    running: Running,
  ): Promise<Import> {
    const { jobs, log } = this.given;
    const { file } = this.find(id);
    const task = {
      file,
      staging: `${file}.staging`,
      source: sourceId,
      shop,
      target,
      settings,
      mode,
      raiseConsent,
    };
    try {
      const counts = await jobs.run('check', task, {
        signal: running.stop.signal,
        progress: (rows) => {
          running.progress = rows;
          this.publish(id);
        },
      });
      this.running.delete(id);
      await this.change(id, { state: 'checked', counts });
    } catch (error) {
      this.running.delete(id);
      if (error instanceof Stopped)
        await this.change(id, { state: 'stopped', message: 'Stopped. Nothing was changed.' });
      else {
        if (!(error instanceof FormatError)) log.error(error);
        const message =
          error instanceof FormatError
            ? error.message
            : 'This file could not be checked; the log says more.';
        await this.change(id, { state: 'failed', message });
      }
    }
    return this.find(id);
  }

  stop(id: string): void {
    this.running.get(id)?.stop.abort();
  }

  /** Imports a checked file, all or nothing. */
  async apply(id: string): Promise<Import> {
    const { imports } = this.given;
    const one = this.find(id);
    const source = this.sourceOf(one.source);
    if (one.state !== 'checked' || !one.settings)
      throw new Refusal(409, 'Only a file that was checked can be imported.');
    const later = imports.lastTaken(source.id);
    if (later?.applied_at && later.applied_at > one.made_at && later.id !== id)
      throw new Refusal(
        409,
        'Another file was imported since this one was checked. Check it again.',
      );
    await this.applying.turn(() => this.applyNow(id, source));
    this.forget(one);
    this.publishSource(source);
    this.publish(id);
    return this.find(id);
  }

  private async applyNow(id: string, { id: source, shop, target }: Source): Promise<void> {
    const { jobs, now } = this.given;
    const { state, file, settings, mode } = this.find(id);
    // Somebody may have asked twice, and the first was done meanwhile.
    if (state !== 'checked' || !settings)
      throw new Refusal(409, 'This file was imported already, or discarded.');
    const running: Running = { progress: 0, stop: new AbortController() };
    this.running.set(id, running);
    await this.change(id, { state: 'applying' });
    try {
      const task: ApplyTask = {
        ...{ import: id, source, shop, target, settings, mode },
        staging: `${file}.staging`,
        now: now().toISOString(),
      };
      await jobs.run('apply', task, {
        progress: (rows) => {
          running.progress = rows;
          this.publish(id);
        },
      });
    } catch (error) {
      await this.change(id, { state: 'checked' });
      throw error;
    } finally {
      this.running.delete(id);
    }
  }

  /** Goes back to what was there before the last file. */
  async undo(id: string): Promise<Import> {
    const { jobs } = this.given;
    const one = this.find(id);
    const source = this.sourceOf(one.source);
    if (!this.summary(one).undoable)
      throw new Refusal(409, 'Only the last file of a source can be gone back from.');
    await this.applying.turn(() => {
      const { counts } = this.find(id);
      if (!this.summary(this.find(id)).undoable)
        throw new Refusal(409, 'This was gone back from already.');
      const { id: from, shop, target } = source;
      const rows = (counts?.new ?? 0) - (counts?.gone ?? 0);
      return jobs.run('undo', { import: id, source: from, shop, target, rows });
    });
    this.publishSource(source);
    this.publish(id);
    return this.find(id);
  }

  /** Discards a file that was not imported. */
  async discard(id: string): Promise<void> {
    this.stop(id);
    const one = this.find(id);
    if (['applied', 'applying', 'undone'].includes(one.state)) return;
    await this.change(id, { state: 'stopped', message: 'Discarded. Nothing was changed.' });
    this.forget(one);
  }

  /** Lets go of what is no longer needed; rejected rows stay to be looked at until the next file. */
  private forget({ file, source, state, counts }: Import): void {
    for (const path of [file, ...besides(file)]) rmSync(path, { force: true });
    if (state === 'checked' && counts && counts.rejected > 0) {
      for (const earlier of this.given.imports.of(source))
        if (earlier.file !== file && earlier.state === 'applied')
          rmSync(`${earlier.file}.staging`, { force: true });
    } else rmSync(`${file}.staging`, { force: true });
  }

  /**
   * Takes a file that comes by itself, read as the last one was. Where much would be lost or refused
   * it waits for somebody. Gives the import, or throws a Refusal that says why not.
   */
  async takeBySelf(one: Import, given: GivenSettings = {}): Promise<Import> {
    const source = this.sourceOf(one.source);
    const target = targetOf(source.target);
    const look = await this.lookWith(one, source, { ...(source.settings ?? {}), ...given }, false);
    const wrong = source.target === 'events' ? [] : mappingProblems(look.settings.mapping, target);
    if (wrong[0] !== undefined) throw new Refusal(422, wrong.join(' '));
    const asked = { settings: look.settings, mode: one.mode };
    const checked = await (await this.check(one.id, asked)).done;
    const { counts } = checked;
    if (checked.state !== 'checked' || !counts)
      throw new Refusal(422, checked.message ?? 'It was stopped.');
    const before = source.row_count;
    const isMuch =
      counts.rejected > counts.read * MANY_REJECTED ||
      (before > 0 && counts.gone > before * MANY_GONE);
    return isMuch ? checked : this.apply(one.id);
  }

  private async change(id: string, wanted: Parameters<ImportsRepository['change']>[1]) {
    const { store, imports } = this.given;
    await store.write(() => imports.change(id, wanted));
    this.publish(id);
  }

  private publish(id: string): void {
    const one = this.given.imports.find(id);
    if (!one) return;
    const { source, state } = one;
    const progress = this.running.get(id)?.progress ?? null;
    this.given.updates.publish({ type: 'import', id, source, state, progress });
  }

  private publishSource({ id, shop, target }: Source): void {
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
