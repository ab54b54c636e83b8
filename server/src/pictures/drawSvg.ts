import { execFile } from 'node:child_process';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Refusal } from '../http/errors';

/** Drawing may take so long, in milliseconds: it is ended after. */
const MOST_MS = 10_000;

/** What the process does: its arguments are where sharp is, the SVG, the PNG, and how wide it is drawn. */
const PROGRAM = `
const [, sharpAt, from, to, width] = process.argv;
const sharp = require(sharpAt);
sharp(from, { limitInputPixels: 80000000 }).resize({ width: Number(width) }).png().toFile(to)
  .then(({ width, height }) => console.log(JSON.stringify({ width, height })))
  .catch((error) => { console.error(error.message); process.exit(1); });
`;
const run = promisify(execFile);

/** One at a time: whatever somebody sends takes one core at most. */
let last: Promise<unknown> = Promise.resolve();

/**
 * Draws an SVG as a PNG in a process of its own, which is ended when it takes too long: what a file asks for holds nothing
 * else up. Gives its size in pixels.
 */
export function drawSvg(
  from: string,
  to: string,
  width: number,
): Promise<{ width: number; height: number }> {
  const drawn = last.then(async () => {
    const sharpAt = createRequire(join(process.cwd(), 'package.json')).resolve('sharp');
    try {
      const { stdout } = await run(
        process.execPath,
        ['-e', PROGRAM, sharpAt, from, to, String(width)],
        { timeout: MOST_MS, killSignal: 'SIGKILL', env: { UV_THREADPOOL_SIZE: '1' } },
      );
      return JSON.parse(stdout) as { width: number; height: number };
    } catch (error) {
      if ((error as { killed?: boolean }).killed)
        throw new Refusal(
          422,
          'Drawing this SVG takes more than 10 seconds. Simplify it, or save it as a PNG.',
        );
      throw error;
    }
  });
  last = drawn.catch(() => undefined);
  return drawn;
}
