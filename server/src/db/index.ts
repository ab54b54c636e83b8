import { entriesTable, type EntriesTable } from './entries';
import { eventsTable, type EventsTable } from './events';
import { importsTable, type ImportsTable } from './imports';
import { openDatabase, type Db } from './open';
import { peopleTable, type PeopleTable } from './people';
import { shopsTable, type ShopsTable } from './shops';
import { sourcesTable, type SourcesTable } from './sources';
import { templatesTable, type TemplatesTable } from './templates';

/** The database with one repository a table. */
export interface Store {
  db: Db;
  shops: ShopsTable;
  sources: SourcesTable;
  entries: EntriesTable;
  imports: ImportsTable;
  events: EventsTable;
  people: PeopleTable;
  templates: TemplatesTable;
}

/** Opens the database and brings its tables forward. */
export function openStore(file: string, migrations: string): Store {
  const db = openDatabase(file, migrations);
  return {
    db,
    shops: shopsTable(db),
    sources: sourcesTable(db),
    entries: entriesTable(db),
    imports: importsTable(db),
    events: eventsTable(db),
    people: peopleTable(db),
    templates: templatesTable(db),
  };
}
