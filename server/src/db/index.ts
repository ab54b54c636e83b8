import { openDatabase, type Db } from './open';
import { peopleTable, type PeopleTable } from './people';
import { shopsTable, type ShopsTable } from './shops';
import { templatesTable, type TemplatesTable } from './templates';

/** The database with one repository a table. */
export interface Store {
  db: Db;
  shops: ShopsTable;
  people: PeopleTable;
  templates: TemplatesTable;
}

export function openStore(file: string, migrations: string): Store {
  const db = openDatabase(file, migrations);
  return { db, shops: shopsTable(db), people: peopleTable(db), templates: templatesTable(db) };
}
