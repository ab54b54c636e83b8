import type { Readable } from 'node:stream';
import type { ImportLook, ImportMode, ImportSummary } from '@carafe/contract';
import type { GivenSettings } from '@carafe/core/intake';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ShopsRepository } from '../shops/repository';
import type { NewJob } from '../queue/jobsRepository';
import type { Source, SourcesRepository } from '../sources/repository';
import { Applying } from './applying';
import { FileChecks, problemsOf, type Asked } from './fileChecks';
import { ImportFiles } from './files';
import type { Import, ImportsRepository } from './repository';
import { ImportStates } from './states';
import type { ImportJobs } from './task';

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
  /** Does a job of the queue, and waits for it. */
  doNow: (job: Omit<NewJob, 'runAt'>) => Promise<void>;
  /** Where files stay while they are looked at. */
  folder: string;
}

/** Past these shares of its rows, a file that comes by itself waits until somebody looked at it. */
const MANY_REJECTED = 0.1;
const MANY_GONE = 0.5;

/** Brings files into sources: received, looked at, checked, imported, gone back from. */
export class ImportsService {
  private readonly states: ImportStates;
  private readonly files: ImportFiles;
  private readonly checks: FileChecks;
  private readonly applying: Applying;

  constructor(private readonly given: Given) {
    this.states = new ImportStates(given);
    this.files = new ImportFiles(given);
    this.checks = new FileChecks(this.states, given);
    this.applying = new Applying(this.states, this.files, given);
  }

  /** Makes good what the last stop has cut off. */
  recover(): Promise<void> {
    return this.applying.recover();
  }

  /** Lets go of files that nobody decided on. */
  clean(): Promise<void> {
    return this.files.clean();
  }

  /** How much room files take while they are looked at, in bytes. */
  room(): { count: number; bytes: number } {
    return this.files.room();
  }

  find(id: string): Import {
    return this.states.find(id);
  }

  sourceOf(id: string): Source {
    return this.states.sourceOf(id);
  }

  summary(one: Import): ImportSummary {
    return this.states.summary(one);
  }

  /** Keeps what a stream brings as the file of a new import. */
  async receive(source: Source, name: string, body: Readable): Promise<Import> {
    return this.find(await this.files.receive(source, name, body));
  }

  /** The same for what is there already. */
  async receiveText(
    source: Source,
    name: string,
    text: string | Uint8Array,
    mode?: ImportMode,
  ): Promise<Import> {
    return this.find(await this.files.receiveText(source, name, text, mode));
  }

  look(id: string, given?: unknown): Promise<ImportLook> {
    return this.checks.look(id, given);
  }

  /** Begins to check a file row by row; how it goes is told as news. Gives its end. */
  async check(id: string, asked: Asked): Promise<{ done: Promise<Import> }> {
    await this.checks.begin(id, asked);
    const done = this.given.doNow({ kind: 'check', key: id, payload: asked });
    const end = done.then(() => this.find(id));
    // Its source may be deleted before it is done; whoever waits for it hears of that.
    end.catch((error: unknown) => this.given.log.error(error));
    return { done: end };
  }

  /** The check itself, also once more where a stop has cut it off. */
  async runCheck(id: string, asked: Asked): Promise<void> {
    if (this.find(id).state === 'checking') await this.checks.run(id, asked);
  }

  stop(id: string): void {
    this.states.stop(id);
  }

  apply(id: string): Promise<Import> {
    return this.applying.apply(id);
  }

  undo(id: string): Promise<Import> {
    return this.applying.undo(id);
  }

  /** Discards a file that was not imported. */
  async discard(id: string): Promise<void> {
    this.stop(id);
    const one = this.find(id);
    if (['applied', 'applying', 'undone'].includes(one.state)) return;
    await this.states.change(id, { state: 'stopped', message: 'Discarded. Nothing was changed.' });
    this.files.forget(one);
  }

  /**
   * Takes a file that comes by itself, read as the last one was. Where much would be lost or refused
   * it waits for somebody. Gives the import, or throws a Refusal that says why not.
   */
  async takeBySelf(one: Import, given: GivenSettings = {}): Promise<Import> {
    const source = this.sourceOf(one.source);
    const kept = { ...(source.settings ?? {}), ...given };
    const { settings } = await this.checks.lookWith(one, source, kept, false);
    const wrong = problemsOf(settings, source);
    if (wrong[0] !== undefined) throw new Refusal(422, wrong.join(' '));
    const asked = { settings, mode: one.mode };
    await this.checks.begin(one.id, asked);
    const checked = await this.checks.run(one.id, asked);
    const { counts } = checked;
    if (checked.state !== 'checked' || !counts)
      throw new Refusal(422, checked.message ?? 'It was stopped.');
    const before = source.row_count;
    const isMuch =
      counts.rejected > counts.read * MANY_REJECTED ||
      (before > 0 && counts.gone > before * MANY_GONE);
    return isMuch ? checked : this.apply(one.id);
  }
}
