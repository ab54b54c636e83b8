import type { ImportLook, ImportMode } from '@carafe/contract';
import { FormatError } from '@carafe/core/formats';
import {
  FileSettings,
  GivenSettings,
  mappingProblems,
  targetOf,
  type Look,
} from '@carafe/core/intake';
import type { Logger } from 'pino';
import { Refusal } from '../http/errors';
import { Stopped, type Jobs } from '../jobs/jobs';
import type { Source } from '../sources/repository';
import type { Import } from './repository';
import type { ImportStates } from './states';
import type { ImportJobs } from './task';

interface Given {
  jobs: Jobs<Pick<ImportJobs, 'look' | 'check'>>;
  log: Logger;
  now: () => Date;
}

/** What is asked of a check. */
export interface Asked {
  settings: unknown;
  mode: ImportMode;
  raise_consent?: boolean | undefined;
}

/** What in a mapping keeps a file from being checked, as sentences. */
export function problemsOf(settings: FileSettings, { target }: Source): string[] {
  return target === 'events' ? [] : mappingProblems(settings.mapping, targetOf(target));
}

/** Reads files: looks at how they begin, and checks them row by row beside what is there. */
export class FileChecks {
  constructor(
    private readonly states: ImportStates,
    private readonly given: Given,
  ) {}

  /** What the file shows, read by what was set, else by what the source's last file was read by. */
  async look(id: string, given?: unknown): Promise<ImportLook> {
    const one = this.states.findWithFile(id);
    const source = this.states.sourceOf(one.source);
    const kept = given === undefined ? (one.settings ?? source.settings ?? undefined) : given;
    const settings = GivenSettings.parse(kept ?? {});
    const base = { import: this.states.summary(one), lists: [] as ImportLook['lists'] };
    try {
      const look = await this.lookWith(one, source, settings, given !== undefined);
      const { columns, rows, lists, settings: found } = look;
      return { ...base, settings: found, columns, rows, lists, problem: null };
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      return { ...base, settings: kept ?? null, columns: [], rows: [], problem: error.message };
    }
  }

  /** The same, throwing what is wrong with the file. */
  lookWith(
    { file }: Import,
    { target }: Source,
    settings: GivenSettings,
    isSet: boolean,
  ): Promise<Look> {
    return this.given.jobs.run('look', { file, target, settings, isSet });
  }

  /** Keeps how a file shall be checked. Throws a Refusal that names what is wrong. */
  async begin(id: string, asked: Asked): Promise<void> {
    const one = this.states.findWithFile(id);
    const source = this.states.sourceOf(one.source);
    if (!['looking', 'checked', 'failed', 'stopped'].includes(one.state))
      throw new Refusal(409, 'This file is being checked or was already imported.');
    const settings = FileSettings.parse(asked.settings);
    const wrong = problemsOf(settings, source);
    if (wrong.length > 0)
      throw new Refusal(
        422,
        wrong.join(' '),
        wrong.map((message) => ({ path: 'mapping', message })),
      );
    const { mode } = asked;
    await this.states.change(id, {
      state: 'checking',
      settings,
      mode,
      message: null,
      counts: null,
    });
  }

  /** Checks a file row by row; how it goes is told as news. Gives its end. */
  async run(id: string, asked: Asked): Promise<Import> {
    try {
      const { mode, raise_consent: raiseConsent = false } = asked;
      const settings = FileSettings.parse(asked.settings);
      const { file, source: from } = this.states.findWithFile(id);
      const { id: source, shop, target } = this.states.sourceOf(from);
      const staging = `${file}.staging`;
      const now = this.given.now().toISOString();
      const task = { file, staging, source, shop, target, settings, mode, raiseConsent, now };
      const counts = await this.states.during(id, (running) =>
        this.given.jobs.run('check', task, running),
      );
      await this.states.change(id, { state: 'checked', counts });
    } catch (error) {
      await this.states.change(id, this.ending(error));
    }
    return this.states.find(id);
  }

  private ending(error: unknown): { state: 'stopped' | 'failed'; message: string } {
    if (error instanceof Stopped)
      return { state: 'stopped', message: 'Stopped. Nothing was changed.' };
    if (error instanceof FormatError || error instanceof Refusal)
      return { state: 'failed', message: error.message };
    this.given.log.error(error);
    return { state: 'failed', message: 'This file could not be checked; the log says more.' };
  }
}
