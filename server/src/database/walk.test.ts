import Database from 'better-sqlite3';
import { walk } from './walk';

test('what is done with a row may walk the same rows once more', () => {
  const db = new Database(':memory:');
  db.exec('CREATE TABLE t (n INTEGER); INSERT INTO t VALUES (1), (2), (3)');
  const above = walk<[number], { n: number }>(db, 'SELECT n FROM t WHERE n > ? ORDER BY n');
  const pairs = [];
  for (const { n } of above(0)) for (const { n: other } of above(n)) pairs.push([n, other]);
  expect(pairs).toEqual([
    [1, 2],
    [1, 3],
    [2, 3],
  ]);
  db.close();
});
