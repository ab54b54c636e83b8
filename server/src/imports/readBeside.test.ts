import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { FileSettings } from '@carafe/core/intake';
import { eventLines, type ReadEvents } from './eventLines';
import { readBeside } from './readBeside';

const thread = pathToFileURL(join(__dirname, '..', 'jobs', 'reader.ts'));
const beside = readBeside(thread, 0);
const folder = mkdtempSync(join(tmpdir(), 'carafe-beside-'));

function taskOf(text: string, format: 'ndjson' | 'json' | 'csv' = 'ndjson') {
  const file = join(folder, `events-${Math.random()}`);
  writeFileSync(file, text);
  return { file, settings: { format, encoding: 'utf-8', pointer: '' } as unknown as FileSettings };
}

async function linesOf(read: ReadEvents, task: ReturnType<typeof taskOf>) {
  const lines = [];
  for await (const batch of read(task)) lines.push(...batch);
  return lines;
}

const event = (i: number) =>
  JSON.stringify({
    ...{ id: `e${i}`, shop: 'q', at: '2026-11-01T10:00:00+01:00', email: `P${i}@Post.example` },
    ...(i % 3 === 0 ? { kind: 'order_placed', number: `N-${i}` } : { kind: 'viewed', sku: 'S' }),
  });

it('reads a file in threads as it is read here: the same lines in the same order, wrong ones too', async () => {
  // Several batches of 256 KB, with lines that are none in between.
  const lines = Array.from({ length: 9_000 }, (_, i) =>
    i % 1_000 === 7 ? '{"id":' : i % 1_000 === 8 ? '{"id":"x"}' : i % 500 === 9 ? '' : event(i),
  );
  const task = taskOf(lines.join('\n'));
  const here = await linesOf(eventLines, task);
  const there = await linesOf(beside, task);
  expect(there).toEqual(here);
  expect(there.filter(({ wrong }) => wrong !== undefined)).toHaveLength(18);
  expect(there.at(-1)).toMatchObject({ line: 9_000, id: 'e8999', email: 'p8999@post.example' });
});

it('reads a list of events by one thread', async () => {
  const task = taskOf(`[${[1, 2, 3].map(event).join(',')}]`, 'json');
  expect(await linesOf(beside, task)).toMatchObject([{ id: 'e1' }, { id: 'e2' }, { id: 'e3' }]);
});

it('says what is wrong with a file in the words that are said here', async () => {
  const none = taskOf('a,b', 'csv');
  await expect(linesOf(beside, none)).rejects.toThrow(
    'Events come as NDJSON, one a line, or as a JSON list of events.',
  );
  await expect(linesOf(beside, { ...none, file: join(folder, 'none') })).rejects.toThrow();
});

it('ends its threads when nobody reads on', async () => {
  const task = taskOf(Array.from({ length: 9_000 }, (_, i) => event(i)).join('\n'));
  for await (const batch of beside(task)) {
    expect(batch.length).toBeGreaterThan(0);
    break;
  }
  // A thread that is left would keep this process: what a test run is told of with open handles.
});
