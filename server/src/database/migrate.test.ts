import { blankTemplate } from '@carafe/core/template';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { openRepositories } from '../repositories';
import { LocalLane } from './lane';
import { openStore } from './store';

const migrations = join(__dirname, '..', '..', 'migrations');

/** A database as the first version made it, with a row in every table. */
function oldDatabase(): string {
  const file = join(mkdtempSync(join(tmpdir(), 'carafe-migrate-')), 'old.db');
  const db = new Database(file);
  db.exec(readFileSync(join(migrations, '001_start.sql'), 'utf8'));
  db.pragma('user_version = 1');
  db.exec(`
    INSERT INTO shops VALUES ('s', '{"id":"s","name":"S","url":"https://s.example"}');
    INSERT INTO products VALUES ('s', 'garden', 'A-1', '{"sku":"A-1","name":"Aster"}');
    INSERT INTO products VALUES ('s', 'tools', 'T-1', '{"sku":"T-1","name":"Trowel"}');
    INSERT INTO feeds VALUES ('furrow', '{"title":"The Furrow","link":"https://f.example","posts":[{"guid":"1","title":"One"},{"link":"https://f.example/2","title":"Two"}]}');
    INSERT INTO coupons VALUES ('s', 'welcome', 'C-1', 10);
    INSERT INTO people (shop, email, record) VALUES ('s', 'Ann@x.example', '{"email":"Ann@x.example","first_name":"Ann"}');
    INSERT INTO events VALUES ('e1', 's', 'Ann@x.example', '2026-01-01T00:00:00.000Z', '{"id":"e1","at":"2026-01-01T00:00:00.000Z","shop":"s","email":"Ann@x.example","kind":"viewed","sku":"A-1"}');
    INSERT INTO templates VALUES ('t', 'T', 's', 3, '2026-01-01', '2026-01-02', NULL, '${JSON.stringify(blankTemplate('T', 's', [])).replaceAll("'", "''")}');
  `);
  db.close();
  return file;
}

test('a database of the first version comes forward without losing a row', () => {
  const store = openStore(oldDatabase(), migrations, new LocalLane());
  const tables = openRepositories(store.db);
  const sources = tables.sources.list();
  const held = Object.fromEntries(
    sources.map(({ id, target, formula_name }) => [
      `${target} ${formula_name}`,
      [...tables.entries.records(id)],
    ]),
  );
  expect(held).toMatchObject({
    'catalog garden': ['{"sku":"A-1","name":"Aster"}'],
    'catalog tools': ['{"sku":"T-1","name":"Trowel"}'],
    'coupons coupons': ['{"code":"C-1","policy":"welcome","percent":10.0}'],
    'people people': ['{"email":"Ann@x.example","first_name":"Ann"}'],
  });
  expect(held['feed furrow']).toHaveLength(2);
  expect(sources.find((s) => s.target === 'feed')).toMatchObject({
    shop: null,
    meta: { title: 'The Furrow', link: 'https://f.example' },
  });
  expect(tables.events.of('s', 'ann@x.example')).toMatchObject([{ id: 'e1', kind: 'viewed' }]);
  expect(tables.templates.find('t')).toMatchObject({ version: 3, template: { name: 'T' } });
  store.close();
});

test('opened again, nothing is done twice', () => {
  const file = oldDatabase();
  openStore(file, migrations, new LocalLane()).close();
  const store = openStore(file, migrations, new LocalLane());
  expect(openRepositories(store.db).sources.list()).toHaveLength(5);
  store.close();
});
