import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { asLongAsSame } from './asLong';

const folder = mkdtempSync(join(tmpdir(), 'carafe-aslong-'));
afterAll(() => rmSync(folder, { recursive: true }));

test('what was read is kept until anybody writes, and of each key its own', () => {
  const file = join(folder, 'a.db');
  const [db, other] = [new Database(file), new Database(file)];
  db.pragma('journal_mode = WAL');
  db.exec("CREATE TABLE t (k TEXT); INSERT INTO t VALUES ('a'), ('b'), ('b')");
  const count = db.prepare<[string], number>('SELECT COUNT(*) FROM t WHERE k = ?').pluck();
  let reads = 0;
  const of = asLongAsSame(db, (key: string) => {
    reads++;
    return count.get(key) ?? 0;
  });
  expect([of('a'), of('b'), of('a'), of('b')]).toEqual([1, 2, 1, 2]);
  expect(reads).toBe(2);
  db.exec("INSERT INTO t VALUES ('a')");
  expect([of('a'), of('a')]).toEqual([2, 2]);
  other.exec("DELETE FROM t WHERE k = 'a'");
  expect([of('a'), of('b')]).toEqual([0, 2]);
  expect(reads).toBe(5);
  // What is taken back was never there.
  db.transaction(() => {
    db.exec("INSERT INTO t VALUES ('a')");
    expect(of('a')).toBe(1);
    db.exec("DELETE FROM t WHERE k = 'a'");
  })();
  expect(of('a')).toBe(0);
  expect(() =>
    db.transaction(() => {
      db.exec("INSERT INTO t VALUES ('a')");
      expect(of('a')).toBe(1);
      throw new Error('back');
    })(),
  ).toThrow('back');
  expect(of('a')).toBe(0);
  db.close();
  other.close();
});
