import { parentPort, workerData } from 'node:worker_threads';
import { plainErrors } from '@carafe/core/errors';
import { FormatError } from '@carafe/core/formats';
import { eventLines } from '../imports/eventLines';
import { rowsOf } from '../imports/fileRows';
import { packed, packedRows, type PackedLines, type PackedRows } from '../imports/packedLines';
import type { ReaderTask } from '../imports/readBeside';
import { AHEAD, type BatchMessage } from './beside';

// A thread that reads a file for another, which checks and stages what was read.
plainErrors();
const port = parentPort;
if (!port) throw new Error('This is to be run as a thread.');
let isAhead = 0;
let wake: () => void = () => undefined;
port.on('message', () => {
  isAhead--;
  wake();
});
const say = (message: BatchMessage<PackedLines | PackedRows>) => port.postMessage(message);

async function* batches(told: ReaderTask): AsyncGenerator<PackedLines | PackedRows> {
  if (told.kind === 'rows') for await (const rows of rowsOf(...told.given)) yield packedRows(rows);
  else for await (const lines of eventLines(told.task, told.share)) yield packed(lines);
}

try {
  for await (const batch of batches(workerData as ReaderTask)) {
    say({ batch });
    if (++isAhead >= AHEAD) await new Promise<void>((done) => (wake = done));
  }
  say({ over: true });
} catch (error) {
  if (!(error instanceof FormatError)) throw error;
  say({ wrong: error.message });
}
