import { existsSync, mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportMode } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import type { Store } from '../database/store';
import type { Source } from '../sources/repository';
import { receiveFile } from '../http/receiveFile';
import type { Import, ImportsRepository } from './repository';
import { besides } from './unfold';

const HOUR = 3_600_000;
/** A file waits so long for somebody to decide on it. */
const KEPT_HOURS = 7 * 24;

interface Given {
  store: Pick<Store, 'write'>;
  imports: ImportsRepository;
  now: () => Date;
  newId: () => string;
  /** Where files stay while they are looked at. */
  folder: string;
}

/** The files of imports: received, kept while they are needed, let go. */
export class ImportFiles {
  constructor(private readonly given: Given) {
    mkdirSync(given.folder, { recursive: true });
  }

  /** Keeps what a stream brings as the file of a new import; gives its id. */
  async receive(source: Source, name: string, body: Readable): Promise<string> {
    const file = this.newFile();
    return this.begin(source, name, file, await receiveFile(body, file));
  }

  /** The same for what is there already. */
  receiveText(
    source: Source,
    name: string,
    text: string | Uint8Array,
    mode?: ImportMode,
  ): Promise<string> {
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
  ): Promise<string> {
    const { store, imports, now, newId } = this.given;
    const mode = given ?? imports.lastTaken(source.id)?.mode ?? targetOf(source.target).mode;
    const id = newId();
    const made = { id, source: source.id, file, name, bytes, mode };
    await store.write(() => imports.insert(made, now().toISOString()));
    return id;
  }

  /** How much room files take while they are looked at, in bytes. */
  room(): { count: number; bytes: number } {
    const sizes = readdirSync(this.given.folder).map(
      (name) => statSync(join(this.given.folder, name), { throwIfNoEntry: false })?.size ?? 0,
    );
    return { count: sizes.length, bytes: sizes.reduce((sum, size) => sum + size, 0) };
  }

  /**
   * Lets go of files that nobody decided on, and of those that belong to no import. What an undo or
   * a list of rejected rows needs stays.
   */
  async clean(): Promise<void> {
    const { store, imports, now, folder } = this.given;
    const before = (hours: number) => new Date(now().getTime() - hours * HOUR);
    const undecided = imports.undecided(before(KEPT_HOURS), before(1));
    const held = undecided.filter(({ file }) => existsSync(file));
    for (const { file } of undecided)
      for (const path of [file, `${file}.staging`, ...besides(file)]) rmSync(path, { force: true });
    if (held.length > 0)
      await store.write(() => {
        for (const { id } of held)
          imports.forgotten(
            id,
            'Nobody decided what to do with this file, so it was discarded. Nothing was changed.',
          );
      });
    const known = new Set(
      imports.files().flatMap((file) => [file, `${file}.staging`, ...besides(file)]),
    );
    for (const name of readdirSync(folder)) {
      const path = join(folder, name);
      const age = now().getTime() - (statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0);
      if (!known.has(path) && age > HOUR) rmSync(path, { force: true });
    }
  }

  /** Lets go of what is no longer needed; rejected rows stay to be looked at until the next file. */
  forget({ file, source, state, counts }: Import): void {
    for (const path of [file, ...besides(file)]) rmSync(path, { force: true });
    if (state === 'checked' && counts && counts.rejected > 0) {
      for (const earlier of this.given.imports.of(source))
        if (earlier.file !== file && earlier.state === 'applied')
          rmSync(`${earlier.file}.staging`, { force: true });
    } else rmSync(`${file}.staging`, { force: true });
  }
}
