import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { TargetId } from '@carafe/core/intake';
import { LocalLane } from '../server/src/database/lane';
import { openStore } from '../server/src/database/store';
import { readingBeside } from '../server/src/imports/readBeside';
import { jobHandlers } from '../server/src/jobs/handlers';
import { inlineJobs } from '../server/src/jobs/inline';
import { foldingBeside } from '../server/src/people/foldBeside';
import { refreshStale } from '../server/src/people/refresh';
import { openRepositories } from '../server/src/repositories';

// Imports one file into an empty database and prints how long each step took, and the memory it took.
const [, , file = '', targetId = 'catalog', data = ''] = process.argv;
const target = targetId as TargetId;
mkdirSync(data, { recursive: true });
const migrations = join(process.cwd(), 'server', 'migrations');
const store = openStore(join(data, 'bench.db'), migrations, new LocalLane());
const folding = foldingBeside(new URL('./folder.mjs', import.meta.url));
const tables = { ...openRepositories(store.db), folding };
const jobs = inlineJobs(
  jobHandlers(store, tables, readingBeside(new URL('./reader.mjs', import.meta.url))),
);
const now = '2026-11-24T09:00:00.000Z';
const shop = 'quillmoss-gb';
tables.shops.insert({
  ...{ id: shop, name: 'Q', url: 'https://q.example', address: '', logo: '' },
  ...{ currency: 'GBP', timezone: 'Europe/London', locale: 'en-GB' },
});
const source = 'bench';
tables.sources.insert(
  {
    ...{ id: source, shop, name: 'Bench', kind: 'file', target, formula_name: source },
    ...{ address: null, every_minutes: null, fresh_hours: 24, next_fetch_at: null },
  },
  now,
);
const kept = join(data, 'file');
copyFileSync(file, kept);
tables.imports.insert({ id: 'i', source, file: kept, name: 'file', bytes: 0, mode: 'whole' }, now);

async function timed<T>(work: () => Promise<T>): Promise<{ took: number; result: T }> {
  const start = performance.now();
  const result = await work();
  return { took: performance.now() - start, result };
}
const { settings } = await jobs.run('look', { file: kept, target, settings: {}, isSet: false });
const staging = `${kept}.staging`;
const common = { source, shop, target, settings, staging, mode: 'whole' as const };
const check = await timed(() =>
  jobs.run('check', { ...common, file: kept, raiseConsent: false, now }),
);
const { new: rows, rejected } = check.result;
if (rejected > 0) throw new Error(`${rejected} rows were rejected.`);
const apply = await timed(() => jobs.run('apply', { ...common, import: 'i', now }));
// Of events, folding all of them anew; of anything else, telling what it holds.
const profile = await timed<unknown>(async () => {
  if (target !== 'events') return jobs.run('profile', { source });
  tables.stalePeople.add(shop, tables.events.owners(shop));
  return refreshStale(store, tables, shop, { ranks: 'always', now: new Date().toISOString() });
});
const milliseconds = { check: check.took, apply: apply.took, profile: profile.took };
const megabytes = process.resourceUsage().maxRSS / 1024;
console.log(JSON.stringify({ milliseconds, rows, megabytes }));
