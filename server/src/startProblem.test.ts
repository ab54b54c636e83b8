import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { lockFolder } from './database/folderLock';
import { openDatabase } from './database/open';
import { sayStartProblem } from './startProblem';

const migrations = join(__dirname, '..', 'migrations');
const folder = () => mkdtempSync(join(tmpdir(), 'carafe-start-'));
/** What somebody reads who starts Carafe on a database. */
function saidOf(file: string): string | null {
  try {
    openDatabase(file, migrations).close();
    return null;
  } catch (error) {
    return sayStartProblem(error, 'the folder');
  }
}

test('a database of a newer version is refused, and not touched', () => {
  const file = join(folder(), 'carafe.db');
  openDatabase(file, migrations).close();
  const newer = new Database(file);
  newer.pragma('user_version = 900');
  newer.close();
  expect(saidOf(file)).toMatch(
    /was made by a newer version of Carafe \(its tables are of version 900/,
  );
  expect(new Database(file).pragma('user_version', { simple: true })).toBe(900);
});

test('an empty or damaged database is told as that', () => {
  const file = join(folder(), 'carafe.db');
  writeFileSync(file, '');
  expect(saidOf(file)).toMatch(/is empty\. Put a backup in its place/);
  writeFileSync(
    file,
    'no database at all, but some text that is long enough to be read'.repeat(99),
  );
  expect(saidOf(file)).toMatch(/^The database in the folder is damaged\./);
});

test('a second server on one folder is refused until the first has ended', () => {
  const data = folder();
  const lock = lockFolder(data);
  expect(() => lockFolder(data)).toThrow(/^Another Carafe is running on /);
  lock.release();
  lockFolder(data).release();
});

test.each([
  ['ENOSPC', /^The disk with the folder is full\./],
  ['SQLITE_FULL', /^The disk with the folder is full\./],
  ['EROFS', /^Carafe cannot write to the folder\./],
  ['SQLITE_CANTOPEN', /^Carafe cannot write to the folder\./],
  ['SQLITE_CORRUPT', /damaged/],
  ['SQLITE_IOERR_WRITE', /cannot be read or written/],
  ['EEXIST', /is a file, not a folder/],
])('%s is one plain sentence', (code, sentence) => {
  expect(sayStartProblem(Object.assign(new Error(), { code }), 'the folder')).toMatch(sentence);
});

test('what nobody foresaw is not given a sentence that is none', () => {
  expect(sayStartProblem(new Error('what'), 'the folder')).toBeNull();
});
