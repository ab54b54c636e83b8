import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { createApp } from './app';
import { openStore } from './db';
import { loadDemo } from './demo';
import { inlineJobs } from './jobs/inline';
import { makeServices } from './services';

const migrations = join(__dirname, '..', 'migrations');

/** A server over a database in memory, its clock and ids held still, for tests. */
export async function testServer(options: { demo?: boolean; token?: string } = {}) {
  let now = new Date('2026-11-24T09:00:00Z');
  let count = 0;
  const store = openStore(':memory:', migrations);
  const folder = mkdtempSync(join(tmpdir(), 'carafe-test-'));
  const services = makeServices({
    store,
    jobs: inlineJobs(store),
    files: join(folder, 'files'),
    now: () => now,
    newId: () => `t${++count}`,
    log: pino({ level: 'silent' }),
    self: () => '',
    token: options.token,
  });
  if (options.demo) await loadDemo(services);
  const app = createApp(services, { pictures: folder });
  const wait = (hours: number) => {
    now = new Date(now.getTime() + hours * 3_600_000);
  };
  return { app, store, services, wait };
}
