import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { createApp } from './app';
import { openStore } from './db';
import { loadDemo } from './demo';

const migrations = join(__dirname, '..', 'migrations');

/** A server over a database in memory, its clock and ids held still, for tests. */
export function testServer(options: { demo?: boolean; token?: string } = {}) {
  const now = new Date('2026-11-24T09:00:00Z');
  let count = 0;
  const newId = () => `t${++count}`;
  const store = openStore(':memory:', migrations);
  if (options.demo) loadDemo(store, now, newId);
  const pictures = mkdtempSync(join(tmpdir(), 'carafe-pictures-'));
  const log = pino({ level: 'silent' });
  const app = createApp({
    store,
    now: () => now,
    newId,
    log,
    pictures,
    ...(options.token && { token: options.token }),
  });
  return { app, store };
}
