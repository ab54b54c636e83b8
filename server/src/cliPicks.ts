import { existsSync } from 'node:fs';
import { once } from 'node:events';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { historyOf, tasteOf, type Taste } from '@carafe/core/recommend';
import { linesIn } from './cliFiles';
import { LocalLane } from './database/lane';
import { openStore } from './database/store';
import { picksOf } from './recommend/picks';
import { activityOfAll } from './recommend/activity';
import { openRepositories } from './repositories';
import { UsageError } from './usageError';

export interface PicksFlags {
  rule: string;
  shop?: string;
  people?: string;
  data?: string;
}

type Repositories = ReturnType<typeof openRepositories>;

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');

/** Addresses, one a line. */
async function* addressesIn(file: string): AsyncGenerator<string> {
  for await (const line of linesIn(file)) if (line.trim() !== '') yield line.trim().toLowerCase();
}

/**
 * The tables, with what people of a shop like worked out now where a running Carafe has not stored it yet. It is
 * not stored: this only reads.
 */
function withTaste(tables: Repositories, shop: string): Repositories {
  let own: Taste | undefined;
  const find = (of: string): Taste | null => {
    const stored = tables.tastes.find(of);
    if (stored || of !== shop) return stored;
    own ??= tasteOf(historyOf(activityOfAll(tables, shop)));
    return own;
  };
  return { ...tables, tastes: { ...tables.tastes, find } };
}

/** Prints what a rule picks, one person a line as NDJSON: for everybody of its shop, or for the addresses given. */
export async function picks(
  { rule: name, shop, people, data }: PicksFlags,
  now: Date,
): Promise<void> {
  const folder = resolve(data ?? process.env['CARAFE_DATA'] ?? join(root, 'data'));
  const file = join(folder, 'carafe.db');
  if (!existsSync(file))
    throw new UsageError(
      `There is no Carafe database in ${folder}. Say where it is with --data, or start Carafe once.`,
    );
  const store = openStore(file, join(root, 'server', 'migrations'), new LocalLane());
  try {
    const tables = openRepositories(store.db);
    const rules = tables.rules
      .everywhere(name)
      .filter((one) => shop === undefined || one.shop === shop);
    const [found, second] = rules;
    if (!found) throw new UsageError(`There is no rule “${name}”${shop ? ` in ${shop}` : ''}.`);
    if (second) throw new UsageError(`Several shops have a rule “${name}”: say which with --shop.`);
    const task = { shop: found.shop, now: now.toISOString(), turn: null, changes: [] };
    const parts = withTaste(tables, found.shop);
    const addresses = people === undefined ? tables.people.emails(found.shop) : addressesIn(people);
    for await (const person of addresses) {
      const picked = picksOf(parts, { ...task, rule: found.published, person });
      // The products themselves would make a line of each person tens of kilobytes.
      const short = picked?.picks.map(({ product: _, ...rest }) => rest) ?? [];
      const line = { person, picks: short };
      if (!process.stdout.write(`${JSON.stringify(line)}\n`)) await once(process.stdout, 'drain');
    }
  } finally {
    store.close();
  }
}
