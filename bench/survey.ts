import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';

// Fills a template for everybody: variants, coverage, checks, and the impact of an edit, as the page asks for them.
// `npx tsx bench/survey.ts [people …]`, with the server built.
const root = process.cwd();
const SIZES = process.argv.slice(2).map(Number);
const sizes = SIZES.length > 0 ? SIZES : [1_000, 10_000, 100_000, 1_000_000];
/** Of so many a survey is one pass, whose first rows and whole are told: it takes long enough. */
const VERY_MANY = 1_000_000;
const PORT = 4652;
const origin = `http://127.0.0.1:${PORT}`;
const SHOP = 'quillmoss-gb';

async function api<T>(method: string, path: string, body?: unknown): Promise<T> {
  const answer = await fetch(`${origin}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()) as T;
}

/** People like those of the demo, with a cart of five lines each. */
function fill(db: Database.Database, count: number): void {
  const models = db
    .prepare<[string], { email: string; record: string; shopper: string }>(
      `SELECT email, record, shopper FROM people JOIN shoppers ON person = people.id WHERE shop = ? AND lines > 0 LIMIT 200`,
    )
    .all(SHOP);
  const people = db.prepare('INSERT INTO people (shop, email, record) VALUES (?, ?, ?)');
  const shoppers = db.prepare(
    'INSERT INTO shoppers (person, lines, orders, bought, last_order_at, spent, shopper) VALUES (?, 5, ?, ?, NULL, 0, ?)',
  );
  db.transaction(() => {
    db.prepare('DELETE FROM shoppers').run();
    db.prepare('DELETE FROM people').run();
    for (let i = 0; i < count; i++) {
      const model = models[i % models.length];
      if (!model) throw new Error('The demo has nobody with a cart.');
      const email = `p${i}@bench.example`;
      const shopper = JSON.parse(model.shopper) as {
        cart: { lines: unknown[] };
        orders: unknown[];
      };
      const [first] = shopper.cart.lines;
      const lines = i % 3 === 0 ? shopper.cart.lines : [first, first, first, first, first];
      shopper.cart = { ...shopper.cart, lines };
      const record = { ...(JSON.parse(model.record) as object), email };
      const { lastInsertRowid } = people.run(SHOP, email, JSON.stringify(record));
      const { length } = shopper.orders;
      shoppers.run(lastInsertRowid, length, length, JSON.stringify(shopper));
    }
  })();
}

const memoryOf = (pid: number): number =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1_024;

interface Piece {
  survey: { people: number; variants: unknown[]; decisions: unknown[] };
  next: number | null;
}

/** What a survey of so many people took. */
export interface SurveyResult {
  size: number;
  mail_kb: number;
  survey: Pass;
  /** Null of very many, as the impact of an edit. */
  again: Pass | null;
  impact: Pass | null;
  memory_mb: number;
}
interface Pass {
  first_ms: number;
  whole_ms: number;
  people: number;
  variants: number;
  slowest_piece_ms: number;
}
/** Waits until the server does nothing: what it reckons after its start is not what is measured. */
async function quiet(pid: number): Promise<void> {
  const ticks = () => {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];
    return Number(stat[11]) + Number(stat[12]);
  };
  for (let before = -1; ; before = ticks()) {
    await new Promise((done) => setTimeout(done, 2_000));
    if (before >= 0 && ticks() - before < 10) return;
  }
}
const results: SurveyResult[] = [];
for (const size of sizes) {
  const data = mkdtempSync(join(tmpdir(), 'carafe-survey-'));
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), CARAFE_DATA: data },
  });
  await new Promise<void>((done, failed) => {
    server.stdout.on('data', (text: Buffer) => String(text).includes('Carafe is at') && done());
    server.on('exit', (code) => failed(new Error(`The server stopped with ${code}.`)));
  });
  const db = new Database(join(data, 'carafe.db'));
  fill(db, size);
  db.close();
  await quiet(server.pid ?? 0);
  const { templates } = await api<{ templates: { id: string; name: string }[] }>(
    'GET',
    '/templates',
  );
  const id = templates.find(({ name }) => name.startsWith('You left these'))?.id ?? '';
  const { template } = await api<{ template: Record<string, unknown> }>('GET', `/templates/${id}`);
  const bytes = await api<{ html: string }>('POST', `/shops/${SHOP}/filled`, {
    template,
    person: 1,
  }).catch(() => ({ html: '' }));
  const pass = async (path: string, body: object): Promise<Pass> => {
    const begun = performance.now();
    let first = 0;
    let people = 0;
    let variants = 0;
    let slowest = 0;
    for (let after: number | null = 0; after !== null;) {
      const from = performance.now();
      const piece: Piece = await api('POST', `/shops/${SHOP}/${path}`, {
        ...{ ...body, after, most: after === 0 ? 400 : 3_000 },
      });
      slowest = Math.max(slowest, performance.now() - from);
      first ||= performance.now() - begun;
      people += piece.survey?.people ?? 0;
      variants = Math.max(variants, piece.survey?.variants.length ?? 0);
      after = piece.next;
    }
    return {
      ...{ first_ms: Math.round(first), whole_ms: Math.round(performance.now() - begun) },
      ...{ people, variants, slowest_piece_ms: Math.round(slowest) },
    };
  };
  const survey = await pass('survey', { template });
  const isMuch = size >= VERY_MANY;
  const again = isMuch ? null : await pass('survey', { template });
  const changed = structuredClone(template) as { envelope: { subject: string } };
  changed.envelope.subject += ' today';
  const impact = isMuch ? null : await pass('impact', { before: template, after_edit: changed });
  results.push({
    ...{ size, mail_kb: Math.round(bytes.html.length / 1_000), survey, again, impact },
    memory_mb: Math.round(memoryOf(server.pid ?? 0)),
  });
  await new Promise<void>((done) => {
    server.removeAllListeners('exit');
    server.once('exit', () => done());
    server.kill('SIGKILL');
  });
  rmSync(data, { recursive: true, force: true });
}
console.log(JSON.stringify(results));
