import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { targetOf, type TargetId } from '@carafe/core/intake';
import { openStore } from '../server/src/db';
import { applyImport } from '../server/src/imports/apply';
import { checkFile } from '../server/src/imports/check';
import { lookAtFile } from '../server/src/imports/rows';
import { refreshShop } from '../server/src/people';
import { profileRows } from '../server/src/rows';

// Imports one file into an empty database and prints how long each step took, and the memory it took.
const [, , file = '', target = 'catalog', data = ''] = process.argv;
mkdirSync(data, { recursive: true });
const store = openStore(join(data, 'bench.db'), join(process.cwd(), 'server', 'migrations'));
const now = '2026-11-24T09:00:00.000Z';
const shop = 'quillmoss-gb';
store.shops.insert({
  ...{ id: shop, name: 'Q', url: 'https://q.example', address: '', logo: '' },
  ...{ currency: 'GBP', timezone: 'Europe/London', locale: 'en-GB' },
});
const source = {
  ...{ id: 'bench', shop, name: 'Bench', kind: 'file' as const, target: target as TargetId },
  ...{ slot: 'bench', address: null, every_minutes: null, fresh_hours: 24, next_fetch_at: null },
};
store.sources.insert(source, now);
const kept = join(data, 'file');
copyFileSync(file, kept);
store.imports.insert(
  { id: 'i', source: 'bench', file: kept, name: 'file', bytes: 0, mode: 'whole' },
  now,
);
const { settings } = lookAtFile(kept, targetOf(source.target));
const staging = `${kept}.staging`;
const common = { source: 'bench', shop, target: source.target, settings, staging, file: kept };

async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}
let rows = 0;
const check = await timed(async () => {
  const counts = await checkFile(
    store.db,
    { ...common, mode: 'whole', raiseConsent: false },
    () => undefined,
  );
  rows = counts.new;
  if (counts.rejected > 0) throw new Error(`${counts.rejected} rows were rejected.`);
});
const apply = await timed(() => applyImport(store, { ...common, import: 'i', mode: 'whole', now }));
// Of events, folding all of them anew; of anything else, telling what it holds.
const profile = await timed(() =>
  target === 'events' ? refreshShop(store, shop) : profileRows(store, 'bench'),
);
const megabytes = process.resourceUsage().maxRSS / 1024;
console.log(JSON.stringify({ milliseconds: { check, apply, profile }, rows, megabytes }));
