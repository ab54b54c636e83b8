import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ProfileBuilder } from '@carafe/core/shape';
import { build } from 'esbuild';

const PRODUCTS = 100_000;
const EVENTS = 1_000_000;
const SHOPPERS = 40_000;

export async function write(file: string, lines: Iterable<string>): Promise<void> {
  const stream = createWriteStream(file);
  let batch = '';
  for (const line of lines) {
    batch += `${line}\n`;
    if (batch.length < 1 << 18) continue;
    if (!stream.write(batch)) await once(stream, 'drain');
    batch = '';
  }
  stream.end(batch);
  await once(stream, 'close');
}

/** A catalog as shops have them: 16 columns, about 300 bytes a row. */
function* catalogLines(): Generator<string> {
  yield 'sku,name,description,url,image,price,was_price,currency,category,categories,brand,tags,stock,added_at,sow_months,latin_name';
  for (let i = 0; i < PRODUCTS; i++)
    yield `Q-${i},"Lupin ""no. ${i}""","Grown on for three seasons, and kept true since ${1900 + (i % 90)}.",https://shop.quillmoss.example/p/lupin-${i},https://pictures.quillmoss.example/l-${i}.png,${(i % 90) + 1}.50,${i % 7 ? '' : '99.00'},GBP,Seeds,Seeds|Lupin,Quillmoss,Sun|Bees,${i % 200},2026-${String((i % 12) + 1).padStart(2, '0')}-11,Mar–May,Lupinus ${i % 300}`;
}

/** Events of many shoppers over a year: views, carts with properties, orders. */
export function* eventLines(): Generator<string> {
  const start = Date.UTC(2025, 10, 1);
  for (let i = 0; i < EVENTS; i++) {
    // Five events after each other are somebody's: two looks, two things into the cart, the order.
    const shopper = (Math.floor(i / 5) * 7919) % SHOPPERS;
    const head = `{"id":"e${i}","at":"${new Date(start + i * 31_000).toISOString()}","shop":"quillmoss-gb","email":"shopper${shopper}@post.example"`;
    switch (i % 5) {
      case 0:
      case 1:
        yield `${head},"kind":"viewed","sku":"S-${100 + (i % 140)}"}`;
        break;
      case 2:
      case 3:
        yield `${head},"kind":"cart_added","currency":"GBP","sku":"S-${100 + (i % 140)}","name":"Poppy ${i % 140}","variant":"Packet of 50","category":"Seeds","price":2.95,"quantity":${1 + (i % 3)},"properties":[{"name":"Delivery week","value":"Week ${i % 40}"}]}`;
        break;
      default:
        yield `${head},"kind":"order_placed","number":"N-${i}","shipping":4.95}`;
    }
  }
}

export interface Imported {
  milliseconds: { check: number; apply: number; profile: number };
  rows: number;
  megabytes: number;
}

const ROOT = join(import.meta.dirname, '..');
const CORE = join(ROOT, 'core', 'src');
const RESULTS = join(import.meta.dirname, 'results');

/** Makes what runs in a process of its own as the server is built: bundled, its packages outside. */
export async function bundle(): Promise<void> {
  await build({
    entryPoints: [
      ...['import-one', 'read-one', 'recommend', 'occasions', 'survey'].map((name) => ({
        in: join(import.meta.dirname, `${name}.ts`),
        out: name,
      })),
      ...['reader', 'folder'].map((name) => ({
        in: join(ROOT, 'server', 'src', 'jobs', `${name}.ts`),
        out: name,
      })),
    ],
    outdir: RESULTS,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    alias: {
      ...Object.fromEntries(
        readdirSync(CORE).map((part) => [`@carafe/core/${part}`, join(CORE, part, 'index.ts')]),
      ),
      '@carafe/core/checks': join(CORE, 'check', 'all.ts'),
      ...Object.fromEntries(
        ['demo', 'contract'].map((part) => [
          `@carafe/${part}`,
          join(ROOT, part, 'src', 'index.ts'),
        ]),
      ),
    },
    logLevel: 'warning',
  });
}

/** Runs something in a process of its own, so that the memory it takes can be told, and nothing is warm. */
export function alone<T>(name: string, ...given: string[]): T {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [join(RESULTS, `${name}.mjs`), ...given],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  );
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout.trim().split('\n').at(-1) ?? '') as T;
}

function profileAlone(): number {
  const rows = 100_000;
  const columns = 30;
  const records = Array.from({ length: rows }, (_, i) => {
    const record: Record<string, unknown> = {};
    for (let c = 0; c < columns; c++) {
      const kind = c % 5;
      if (kind === 0) record[`f${c}`] = i % (c + 2) === 0 ? '' : `Word ${(i * (c + 1)) % 5000}`;
      else if (kind === 1) record[`f${c}`] = (i * (c + 3)) % 10_007;
      else if (kind === 2) record[`f${c}`] = i % 3 === 0;
      else if (kind === 3) record[`f${c}`] = ['Seeds', `Tag ${i % 40}`];
      else record[`f${c}`] = { date: `2026-0${1 + (i % 9)}-11` };
    }
    return record;
  });
  const times = [0, 1, 2].map(() => {
    const start = performance.now();
    const builder = new ProfileBuilder();
    for (const record of records) builder.add(record);
    if (builder.fields().length !== columns) throw new Error('A column was lost.');
    return performance.now() - start;
  });
  return Math.min(...times);
}

/** Reads a large catalog and a year of events, and tells what a large source holds. */
export async function benchIntake() {
  const folder = mkdtempSync(join(tmpdir(), 'carafe-bench-'));
  try {
    await bundle();
    const csv = join(folder, 'catalog.csv');
    await write(csv, catalogLines());
    // Each import between two readings alone: the machine may be slower a minute later.
    const reading = () => alone<{ milliseconds: number }>('read-one', csv).milliseconds;
    const runs = [1, 2, 3, 4, 5].map((n) => {
      const first = reading();
      const one = alone<Imported>('import-one', csv, 'catalog', join(folder, `catalog${n}`));
      const read = (first + reading()) / 2;
      const { check, apply, profile } = one.milliseconds;
      const imported = check + apply + profile;
      return { read, imported, times: imported / read, megabytes: one.megabytes };
    });
    const ndjson = join(folder, 'events.ndjson');
    await write(ndjson, eventLines());
    const events = alone<Imported>('import-one', ndjson, 'events', join(folder, 'events'));
    return {
      catalogs: runs,
      events,
      profile: profileAlone(),
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
