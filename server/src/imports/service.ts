import { existsSync, mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportLook, ImportMode, ImportSummary } from '@carafe/contract';
import { FormatError } from '@carafe/core/formats';
import {
  FileSettings,
  GivenSettings,
  mappingProblems,
  targetOf,
  type Look,
} from '@carafe/core/intake';
import type { Services } from '../app';
import type { Import } from '../db/imports';
import type { Source } from '../db/sources';
import { Refusal } from '../errors';
import { Stopped } from '../jobs/work';
import { receiveFile } from './receive';
import { lookAtFile } from './rows';

/** Past these shares of its rows, a file that comes by itself waits until somebody looked at it. */
const MANY_REJECTED = 0.1;
const MANY_GONE = 0.5;

interface Running {
  progress: number;
  stop: AbortController;
}

/** Brings files into sources: received, looked at, checked, taken, gone back from. */
export class Imports {
  private readonly running = new Map<string, Running>();

  constructor(
    private readonly services: Services,
    private readonly folder: string,
  ) {
    mkdirSync(folder, { recursive: true });
  }

  find(id: string): Import {
    const found = this.services.store.imports.find(id);
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
    const found = this.services.store.sources.find(id);
    if (!found) throw new Refusal(404, 'There is no such source; perhaps it was deleted.');
    return found;
  }

  summary(one: Import): ImportSummary {
    const { id, source, state, name, bytes, mode, counts, message, made_at, applied_at } = one;
    const progress = this.running.get(id)?.progress ?? null;
    // One step back is kept: of the file that was taken last, as long as it was not gone back from.
    const undoable =
      state === 'applied' && this.services.store.imports.lastTaken(source)?.id === id;
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
  receiveText(source: Source, name: string, text: string | Uint8Array): Import {
    const file = this.newFile();
    writeFileSync(file, text);
    return this.begin(source, name, file, statSync(file).size);
  }

  private newFile(): string {
    return join(this.folder, this.services.newId());
  }

  private begin(source: Source, name: string, file: string, bytes: number): Import {
    const { store, now, newId } = this.services;
    const before = store.imports.lastTaken(source.id);
    const mode: ImportMode = before?.mode ?? (source.target === 'feed' ? 'part' : 'whole');
    const id = newId();
    store.imports.insert({ id, source: source.id, file, name, bytes, mode }, now().toISOString());
    return this.find(id);
  }

  /** What the file shows, read by what was set, else by what the source's last file was read by. */
  look(id: string, given?: unknown): ImportLook {
    const one = this.findWithFile(id);
    const source = this.sourceOf(one.source);
    const kept = given === undefined ? (one.settings ?? source.settings ?? undefined) : given;
    const settings = GivenSettings.parse(kept ?? {});
    const base = { import: this.summary(one), lists: [] as ImportLook['lists'] };
    try {
      const look = this.lookWith(one, source, settings, given !== undefined);
      const { columns, rows, lists, settings: found } = look;
      return { ...base, settings: found, columns, rows: rows.slice(0, 200), lists, problem: null };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ...base, settings: kept ?? null, columns: [], rows: [], problem: error.message };
    }
  }

  private lookWith(one: Import, source: Source, settings: GivenSettings, isSet: boolean): Look {
    const target = targetOf(source.target);
    if (isSet) return lookAtFile(one.file, target, settings);
    // The next file of a source is written as the last one was; where it is not, that is found out.
    const { encoding: _anew, ...kept } = settings;
    const { mapping, consented_only } = kept;
    const known = mapping?.columns.map((c) => c.column) ?? [];
    try {
      const look = lookAtFile(one.file, target, kept);
      if (known.length === 0 || known.some((column) => look.columns.includes(column))) return look;
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
    }
    return lookAtFile(one.file, target, {
      ...(mapping && { mapping }),
      ...(consented_only !== undefined && { consented_only }),
    });
  }

  /** Begins to check a file row by row; how it goes is told as news. Gives its end. */
  check(
    id: string,
    asked: { settings: unknown; mode: ImportMode; raise_consent: boolean },
  ): Promise<Import> {
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
    const { store } = this.services;
    const stop = new AbortController();
    const running: Running = { progress: 0, stop };
    this.running.set(id, running);
    store.imports.change(id, {
      state: 'checking',
      settings,
      mode: asked.mode,
      message: null,
      counts: null,
    });
    this.tell(id);
    return this.runCheck(id, source, settings, asked.mode, asked.raise_consent, running);
  }

  private async runCheck(
    id: string,
    { id: sourceId, shop, target }: Source,
    settings: FileSettings,
    mode: ImportMode,
    raiseConsent: boolean,
    running: Running,
  ): Promise<Import> {
    const { store, jobs, log } = this.services;
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
          this.tell(id);
        },
      });
      store.imports.change(id, { state: 'checked', counts });
    } catch (error) {
      if (error instanceof Stopped)
        store.imports.change(id, { state: 'stopped', message: 'Stopped. Nothing was changed.' });
      else {
        if (!(error instanceof FormatError)) log.error(error);
        const message =
          error instanceof FormatError
            ? error.message
            : 'This file could not be checked; the log says more.';
        store.imports.change(id, { state: 'failed', message });
      }
    } finally {
      this.running.delete(id);
      this.tell(id);
    }
    return this.find(id);
  }

  stop(id: string): void {
    this.running.get(id)?.stop.abort();
  }

  /** Takes a checked file in, all or nothing. */
  async apply(id: string): Promise<Import> {
    const { store, jobs, gate, now } = this.services;
    const one = this.find(id);
    const source = this.sourceOf(one.source);
    const { settings } = one;
    if (one.state !== 'checked' || !settings)
      throw new Refusal(409, 'Only a file that was checked can be taken.');
    const later = store.imports.lastTaken(source.id);
    if (later?.applied_at && later.applied_at > one.made_at && later.id !== id)
      throw new Refusal(409, 'Another file was taken since this one was checked. Check it again.');
    await gate.hold(() => {
      // Somebody may have asked twice, and the first was done meanwhile.
      if (this.find(id).state !== 'checked')
        throw new Refusal(409, 'This file was taken already, or thrown away.');
      return jobs.run('apply', {
        import: id,
        source: source.id,
        shop: source.shop,
        target: source.target,
        staging: `${one.file}.staging`,
        file: one.file,
        settings,
        mode: one.mode,
        now: now().toISOString(),
      });
    });
    this.forget(one);
    this.tellSource(source);
    this.tell(id);
    return this.find(id);
  }

  /** Goes back to what was there before the last file. */
  async undo(id: string): Promise<Import> {
    const { jobs, gate } = this.services;
    const one = this.find(id);
    const source = this.sourceOf(one.source);
    if (!this.summary(one).undoable)
      throw new Refusal(409, 'Only the last file of a source can be gone back from.');
    await gate.hold(() => {
      if (!this.summary(this.find(id)).undoable)
        throw new Refusal(409, 'This was gone back from already.');
      const { id: from, shop, target } = source;
      return jobs.run('undo', { import: id, source: from, shop, target });
    });
    this.tellSource(source);
    this.tell(id);
    return this.find(id);
  }

  /** Throws a file away that was not taken. */
  discard(id: string): void {
    this.stop(id);
    const one = this.find(id);
    if (one.state === 'applied' || one.state === 'undone') return;
    this.services.store.imports.change(id, {
      state: 'stopped',
      message: 'Thrown away. Nothing was changed.',
    });
    this.forget(one);
    this.tell(id);
  }

  /** Lets go of what is no longer needed; rejected rows stay to be looked at until the next file. */
  private forget({ file, source, state, counts }: Import): void {
    rmSync(file, { force: true });
    if (state === 'checked' && counts && counts.rejected > 0) {
      for (const earlier of this.services.store.imports.of(source))
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
    const look = this.lookWith(one, source, { ...(source.settings ?? {}), ...given }, false);
    const wrong = source.target === 'events' ? [] : mappingProblems(look.settings.mapping, target);
    if (wrong[0] !== undefined) throw new Refusal(422, wrong.join(' '));
    const asked = { settings: look.settings, mode: one.mode, raise_consent: false };
    const checked = await this.check(one.id, asked);
    const { counts } = checked;
    if (checked.state !== 'checked' || !counts)
      throw new Refusal(422, checked.message ?? 'It was stopped.');
    const before = this.services.store.entries.count(source.id);
    const isMuch =
      counts.rejected > counts.read * MANY_REJECTED ||
      (before > 0 && counts.gone > before * MANY_GONE);
    return isMuch ? checked : this.apply(one.id);
  }

  private tell(id: string): void {
    const one = this.services.store.imports.find(id);
    if (!one) return;
    const { source, state } = one;
    const progress = this.running.get(id)?.progress ?? null;
    this.services.news.tell({ type: 'import', id, source, state, progress });
  }

  private tellSource({ id, shop, target }: Source): void {
    const { news } = this.services;
    news.tell({ type: 'source', id });
    if (['people', 'carts', 'orders', 'events'].includes(target))
      for (const one of this.services.store.shops.list())
        if (shop === null || one.id === shop) news.tell({ type: 'people', shop: one.id, ids: [] });
    if (['catalog', 'feed', 'coupons'].includes(target)) news.tell({ type: 'world', shop });
  }
}
