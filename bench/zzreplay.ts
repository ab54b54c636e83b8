import { resolve } from 'node:path';
import { LocalLane } from '../server/src/database/lane';
import { openStore } from '../server/src/database/store';
import { openRepositories } from '../server/src/repositories';
import { replaySome } from '../server/src/occasions/replays';
const store = openStore('/tmp/big/carafe.db', resolve('server/migrations'), new LocalLane());
const parts = openRepositories(store.db);
const shop = 'quillmoss-gb';
const occasions = parts.occasions.list(shop).map(({ id, occasion }) => ({ id, occasion }));
const now = Date.parse('2026-11-24T09:00:00Z');
const mode = (process.argv[2] ?? 'rehearse') as 'rehearse';
for (let i = 0; i < 4; i++) {
  const ids = parts.people.idsAfter(shop, 3000 + i * 1500, 1500);
  const t = performance.now();
  const f = replaySome(parts, { shop, occasions, mode, days: 30, seed: 1, ids, now });
  console.log(((performance.now() - t) / ids.length).toFixed(3), 'ms/person', f?.mails);
}
