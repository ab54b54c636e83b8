import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { dayGiven, linesIn, RecordsIn, templateIn } from './cliFiles';
import { withLibrary } from './cliLibrary';
import { UsageError } from './usageError';

let folder: string;
const told: string[] = [];
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'carafe-files-'));
  told.length = 0;
  jest.spyOn(console, 'error').mockImplementation((line: string) => void told.push(line));
});
afterEach(() => {
  jest.restoreAllMocks();
  rmSync(folder, { recursive: true });
});

function file(name: string, text: string | Buffer): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}
async function recordsOf(text: string) {
  const records = new RecordsIn(file('r.ndjson', text));
  const read = [];
  for await (const { line, record } of records.read()) read.push([line, record]);
  return { read, failed: records.failed };
}

test('a folder, and a file that is not there, are told by their names', async () => {
  const lines = async (path: string) => {
    for await (const line of linesIn(path)) return line;
    return undefined;
  };
  expect(() => templateIn(folder)).toThrow(`${folder} is a folder; name a file in it.`);
  await expect(lines(folder)).rejects.toThrow(UsageError);
  await expect(lines(join(folder, 'none'))).rejects.toThrow(/^There is no file /);
  expect(() => templateIn(file('t.json', '{'))).toThrow(/This is not JSON, or it is incomplete/);
});

test('records are read with their lines; what is none is told and counted', async () => {
  const { read, failed } = await recordsOf('{"a":1}\r\n\n[]\nnull\n{"b":2}\n{');
  expect(read).toEqual([
    [1, { a: 1 }],
    [5, { b: 2 }],
  ]);
  expect(failed).toBe(3);
  expect(told).toEqual([
    'Line 3 is not a record.',
    'Line 4 is not a record.',
    expect.stringMatching(/^Line 6 is not JSON/),
  ]);
});

test('of very many lines that are none the first are told, and how many more', async () => {
  const { failed } = await recordsOf('x\n'.repeat(1_021));
  expect(failed).toBe(1_021);
  expect(told).toHaveLength(21);
  expect(told.at(-1)).toBe('… and 1,001 lines more.');
});

test('a day is a day of the calendar', () => {
  expect(dayGiven('2026-03-31').toISOString()).toBe('2026-03-31T00:00:00.000Z');
  expect(() => dayGiven('2026-02-30')).toThrow(/not “2026-02-30”/);
});

test('a template is read as the API answers it too', () => {
  const template = blankTemplate('T', 's', []);
  const bare = templateIn(file('t.json', JSON.stringify(template)));
  expect(templateIn(file('a.json', JSON.stringify({ id: 't', version: 3, template })))).toEqual(
    bare,
  );
});

test('a template that shows notes is refused without the library, and filled with it', () => {
  const c = composer(countedIds());
  const template = blankTemplate('T', 's', [c.section('S', [c.block('notes')])]);
  expect(() => withLibrary(template, {})).toThrow(/^This template shows product notes/);
  const library = file('l.json', JSON.stringify({ notes: [], formulas: [] }));
  expect(withLibrary(template, { library }).name).toBe('T');
  expect(() => withLibrary(template, { library: file('x.json', '{') })).toThrow(/is not a library/);
  expect(() => withLibrary(template, { data: folder })).toThrow(/There is no database of Carafe/);
});
