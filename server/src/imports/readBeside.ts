import { statSync } from 'node:fs';
import { Beside } from '../jobs/beside';
import { eventLines, type ReadEvents, type ReadTask, type Share } from './eventLines';
import { rowsOf, type ReadRows } from './fileRows';
import { unpacked, unpackedRows, type PackedLines, type PackedRows } from './packedLines';

/** How files are read: here, or in threads beside. */
export interface Reading {
  events: ReadEvents;
  rows: ReadRows;
}
export const HERE: Reading = { events: eventLines, rows: rowsOf };

/** Up to so many bytes a file is read before a thread would have been started. */
const SMALL = 4_000_000;
/** Reading events takes three times as long as staging: so many threads share a file that has lines. */
const READERS = 2;

/** What a thread that reads is told. */
export type ReaderTask =
  { kind: 'events'; task: ReadTask; share: Share } | { kind: 'rows'; given: Parameters<ReadRows> };

/** The batches of some threads in turn; it is over when the one whose turn it is has no more. */
async function* inTurn<T>(thread: URL, tasks: readonly ReaderTask[]): AsyncGenerator<T> {
  const readers = tasks.map((task) => new Beside<T>(thread, task));
  try {
    for (let turn = 0; ; turn++) {
      const batch = await readers[turn % readers.length]?.next();
      if (batch === null || batch === undefined) return;
      yield batch;
    }
  } finally {
    await Promise.all(readers.map((reader) => reader.close()));
  }
}

async function* eventsBeside(thread: URL, { file, settings }: ReadTask): ReturnType<ReadEvents> {
  const of = settings.format === 'ndjson' ? READERS : 1;
  const tasks = Array.from({ length: of }, (_, which): ReaderTask => {
    return { kind: 'events', task: { file, settings }, share: { of, which } };
  });
  for await (const batch of inTurn<PackedLines>(thread, tasks)) yield unpacked(batch);
}

async function* rowsBeside(thread: URL, given: Parameters<ReadRows>): ReturnType<ReadRows> {
  for await (const batch of inTurn<PackedRows>(thread, [{ kind: 'rows', given }]))
    yield unpackedRows(batch);
}

/** Reads large files in threads beside (jobs/reader.ts), while this one checks and stages what was read. */
export function readingBeside(thread: URL, small = SMALL): Reading {
  const isSmall = (file: string) => statSync(file).size < small;
  return {
    events: (task) => (isSmall(task.file) ? eventLines(task) : eventsBeside(thread, task)),
    rows: (...given) => (isSmall(given[0]) ? rowsOf(...given) : rowsBeside(thread, given)),
  };
}
