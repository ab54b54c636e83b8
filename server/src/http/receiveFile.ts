import { once } from 'node:events';
import { createWriteStream, rmSync } from 'node:fs';
import type { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
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

/**
 * Writes a stream to a file, refused past the limit; gives the bytes. Where it fails, no file is left, and what is still
 * on its way is read to the end: a browser reads no answer before it has sent all.
 */
export async function receiveFile(
  body: Readable,
  file: string,
  { most, refusal }: FileLimit = DATA,
): Promise<number> {
  let bytes = 0;
  const out = createWriteStream(file);
  const count = (chunk: Buffer) => {
    bytes += chunk.length;
    if (bytes > most) out.destroy(new Refusal(413, refusal));
  };
  try {
    body.on('data', count).pipe(out);
    await Promise.all([finished(body, { writable: false }), finished(out)]);
  } catch (error) {
    body.off('data', count).unpipe(out);
    out.destroy();
    // A file that is only being opened would come after it was taken away. What went wrong is thrown below.
    if (!out.closed) await once(out, 'close').catch(() => undefined);
    rmSync(file, { force: true });
    body.resume();
    throw error;
  }
  return bytes;
}
