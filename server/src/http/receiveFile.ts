import { createWriteStream, rmSync } from 'node:fs';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Refusal } from './errors';

/** How large a file may be, in bytes, and what is said of a larger one. */
export interface FileLimit {
  most: number;
  refusal: string;
}
const DATA: FileLimit = {
  most: 1_000_000_000,
  refusal: 'A file may have 1 GB at most. Nothing was changed.',
};

/** Writes a stream to a file, refused past the limit; gives the bytes. Where it fails, no file is left. */
export async function receiveFile(
  body: Readable,
  file: string,
  { most, refusal }: FileLimit = DATA,
): Promise<number> {
  let bytes = 0;
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > most) done(new Refusal(413, refusal));
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
