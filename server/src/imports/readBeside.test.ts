import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { FileSettings } from '@carafe/core/intake';
import { eventLines, type ReadEvents } from './eventLines';
import { rowsOf } from './fileRows';
import { readingBeside } from './readBeside';

const thread = pathToFileURL(join(__dirname, '..', 'jobs', 'reader.ts'));
const { events: beside, rows: rowsBeside } = readingBeside(thread, 0);
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
    'Send events as NDJSON, one per line, or as a JSON list.',
  );
  await expect(linesOf(beside, { ...none, file: join(folder, 'none') })).rejects.toThrow();
});

it('reads rows in a thread as they are read here: blanks, short rows, lines in cells, letters of another encoding', async () => {
  const file = join(folder, 'catalog.csv');
  const lines = Array.from({ length: 3_000 }, (_, i) =>
    i % 700 === 3 ? `S-${i}` : i % 500 === 9 ? '' : `S-${i},"Poppy\n${i}",\u00a3${i}`,
  );
  writeFileSync(file, `sku,name,price\n${lines.join('\n')}`, 'latin1');
  const dialect = { delimiter: ',', quote: '"', header: true };
  const table = { format: 'table', encoding: 'windows-1252', dialect } as unknown as FileSettings;
  const all = async (read: typeof rowsOf, settings: FileSettings) => {
    const rows = [];
    for await (const batch of read(file, settings, ['sku', 'name', 'price'])) rows.push(...batch);
    return rows;
  };
  const there = await all(rowsBeside, table);
  expect(there).toEqual(await all(rowsOf, table));
  expect(there.at(-1)?.cells).toEqual(['S-2999', 'Poppy\n2999', '£2999']);
  expect(there.filter(({ wrong }) => wrong !== undefined)).toHaveLength(5);
  // Cells that are lists stay lists.
  writeFileSync(file, '{"sku":"A","name":["b","c"],"price":1}\n[1]\n{"sku":"B"}');
  const ndjson = { format: 'ndjson', encoding: 'utf-8' } as unknown as FileSettings;
  expect(await all(rowsBeside, ndjson)).toEqual(await all(rowsOf, ndjson));
  expect((await all(rowsBeside, ndjson))[0]?.cells).toEqual(['A', ['b', 'c'], 1]);
});

it('ends its threads when nobody reads on', async () => {
  const task = taskOf(Array.from({ length: 9_000 }, (_, i) => event(i)).join('\n'));
  for await (const batch of beside(task)) {
    expect(batch.length).toBeGreaterThan(0);
    break;
  }
  // A thread that is left would keep this process: what a test run is told of with open handles.
});
