import { mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { ImportMode } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import type { Store } from '../database/store';
import type { Source } from '../sources/repository';
import { receiveFile } from './receiveFile';
import type { Import, ImportsRepository } from './repository';
import { besides } from './unfold';

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
