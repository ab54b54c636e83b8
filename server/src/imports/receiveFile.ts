import { createWriteStream, rmSync } from 'node:fs';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Refusal } from '../http/errors';

/** A file may have so many bytes. */
const MAX_FILE = 1_000_000_000;

/** Writes a stream to a file, refused past the limit; gives the bytes. Where it fails, no file is left. */
export async function receiveFile(body: Readable, file: string): Promise<number> {
  let bytes = 0;
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > MAX_FILE)
        done(
          new Refusal(413, `A file may have ${MAX_FILE / 1e9} GB at most. Nothing was changed.`),
        );
      else done(null, chunk);
    },
  });
  try {
    await pipeline(body, counted, createWriteStream(file));
  } catch (error) {
    rmSync(file, { force: true });
    throw error;
  }
  return bytes;
}
