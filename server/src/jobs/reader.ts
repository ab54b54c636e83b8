import { parentPort, workerData } from 'node:worker_threads';
import { plainErrors } from '@carafe/core/errors';
import { FormatError } from '@carafe/core/formats';
import { eventLines } from '../imports/eventLines';
import { packed, type PackedLines } from '../imports/packedLines';
import type { ReaderTask } from '../imports/readBeside';
import { AHEAD, type BatchMessage } from './beside';

// A thread that reads the events of a file for another, which stages them.
plainErrors();
const port = parentPort;
if (!port) throw new Error('This is to be run as a thread.');
let isAhead = 0;
let wake: () => void = () => undefined;
port.on('message', () => {
  isAhead--;
  wake();
});
const say = (message: BatchMessage<PackedLines>) => port.postMessage(message);

try {
  const { task, share } = workerData as ReaderTask;
  for await (const batch of eventLines(task, share)) {
    say({ batch: packed(batch) });
    if (++isAhead >= AHEAD) await new Promise<void>((done) => (wake = done));
  }
  say({ over: true });
} catch (error) {
  if (!(error instanceof FormatError)) throw error;
  say({ wrong: error.message });
}
