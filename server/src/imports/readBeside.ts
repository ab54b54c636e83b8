import { statSync } from 'node:fs';
import { Beside } from '../jobs/beside';
import { eventLines, type ReadEvents, type ReadTask, type Share } from './eventLines';
import { unpacked, type PackedLines } from './packedLines';

/** Up to so many bytes a file is read before a thread would have been started. */
const SMALL = 4_000_000;
/** Reading takes three times as long as staging: so many threads share a file that has lines. */
const READERS = 2;

/** What a thread that reads is told. */
export interface ReaderTask {
  task: ReadTask;
  share: Share;
}

async function* linesBeside(thread: URL, task: ReadTask): ReturnType<ReadEvents> {
  const { file, settings } = task;
  const of = settings.format === 'ndjson' ? READERS : 1;
  const readers = Array.from({ length: of }, (_, which) => {
    const told: ReaderTask = { task: { file, settings }, share: { of, which } };
    return new Beside<PackedLines>(thread, told);
  });
  try {
    // In turn, so that lines come in the order of the file: the reader whose turn it is has no more
    // when the file has no more.
    for (let turn = 0; ; turn++) {
      const batch = await readers[turn % of]?.next();
      if (!batch) return;
      yield unpacked(batch);
    }
  } finally {
    await Promise.all(readers.map((reader) => reader.close()));
  }
}

/** Reads large files of events in threads beside (jobs/reader.ts), while this one stages what was read. */
export const readBeside =
  (thread: URL, small = SMALL): ReadEvents =>
  (task) =>
    statSync(task.file).size < small ? eventLines(task) : linesBeside(thread, task);
