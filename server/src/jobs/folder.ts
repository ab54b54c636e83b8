import { parentPort, workerData } from 'node:worker_threads';
import { plainErrors } from '@carafe/core/errors';
import Database from 'better-sqlite3';
import { CACHE_SIZE } from '../database/open';
import { eventsRepository } from '../events/repository';
import type { FoldAnswer, FoldQuestion } from '../people/foldBeside';
import { foldPerson } from '../people/foldPerson';
import { entriesRepository } from '../sources/entriesRepository';

// A thread that puts people together for another, which writes them.
plainErrors();
const port = parentPort;
if (!port) throw new Error('This is to be run as a thread.');
const { database } = workerData as { database: string };
const db = new Database(database, { readonly: true, timeout: 30_000 });
db.pragma(`cache_size = ${CACHE_SIZE}`);
const parts = { events: eventsRepository(db), entries: entriesRepository(db) };
// One look at the database for all of a question.
const answer = db.transaction(({ shop, emails }: FoldQuestion): FoldAnswer =>
  emails.map((email) => foldPerson(parts, shop, email)),
);
port.on('message', (question: FoldQuestion) => port.postMessage(answer(question)));
