import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Shop } from '@carafe/contract';
import { pino } from 'pino';
import request from 'supertest';
import { plainErrors } from '@carafe/core/errors';
import { compose } from './compose';
import { LocalLane } from './database/lane';
import { openStore } from './database/store';
import { versionOf } from './http/version';
import { jobHandlers } from './jobs/handlers';
import { inlineJobs } from './jobs/inline';
import { openRepositories } from './repositories';

/** A shop of the tests' own. */
export const TEST_SHOP: Shop = {
  ...{ id: 's', name: 'S', url: 'https://s.example', address: '', logo: '' },
  ...{ currency: 'EUR', timezone: 'Europe/Berlin', locale: 'de-DE' },
};

const migrations = join(__dirname, '..', 'migrations');

/** A server over a database in memory, its clock and ids held still, for tests. */
export async function testServer(
  options: {
    demo?: boolean;
    token?: string;
    mailPassword?: string;
    mailPasswordHost?: string;
  } = {},
) {
  plainErrors();
  let now = new Date('2026-11-24T09:00:00Z');
  let moved = 0;
  let count = 0;
  let self = 'http://127.0.0.1:4600';
  const store = openStore(':memory:', migrations, new LocalLane());
  const folder = mkdtempSync(join(tmpdir(), 'carafe-test-'));
  const newId = () => `t${++count}`;
  const server = compose({
    store,
    jobs: inlineJobs(jobHandlers(store, openRepositories(store.db))),
    files: join(folder, 'files'),
    pictures: folder,
    library: join(folder, 'library'),
    now: () => new Date(now.getTime() + moved),
    setMoved: (milliseconds) => {
      moved = milliseconds;
    },
    real: () => now.getTime(),
    newId,
    log: pino({ level: 'silent' }),
    self: () => self,
    token: options.token,
    mailPassword: () => options.mailPassword ?? null,
    mailPasswordHost: options.mailPasswordHost ?? null,
  });
  if (options.demo) await server.loadDemo();
  const wait = (hours: number) => {
    now = new Date(now.getTime() + hours * 3_600_000);
  };
  const setSelf = (to: string) => {
    self = to;
  };
  return { ...server, store, newId, wait, setSelf };
}

type Tables = ReturnType<typeof openRepositories>;

/** The version of what a path changes, as it is now; undefined where none is asked for. */
function versionAt(tables: Tables, path: string): string | undefined {
  const [kind = '', id = '', part, name = ''] = path.split('/').slice(1);
  const segment = () => tables.segments.list(id).find((one) => one.name === name);
  const documents: Record<string, () => unknown> = {
    '/mail/settings': () => tables.mailSettings.get(),
    '/shops/mail-rules': () => tables.shopRules.get(id),
    '/shops/segments': segment,
    '/shops': () => tables.shops.find(id),
    '/rules': () => tables.rules.find(id)?.rule,
    '/formulas': () => tables.library.find(id, 'formula')?.document,
    '/notes': () => tables.library.find(id, 'note')?.document,
  };
  const read = documents[path] ?? documents[`/${[kind, part].filter(Boolean).join('/')}`];
  // What is not there is refused for that, whatever is said of it.
  return read && versionOf(read() ?? 'nothing');
}

/** Asks a server's API as a page of this machine does; what is changed was read just before. */
export const asking =
  (server: () => { app: Parameters<typeof request>[0]; tables: Tables }) =>
  (method: 'get' | 'post' | 'put' | 'patch' | 'delete', path: string, body?: object) => {
    const { app, tables } = server();
    const version = method === 'put' ? versionAt(tables, path) : undefined;
    return request(app)
      [method](`/api${path}`)
      .query(version === undefined ? {} : { version })
      .set('Host', '127.0.0.1')
      .send(body);
  };

/** The sentence of a refusal. */
export const said = ({ body }: { body: unknown }): string | undefined =>
  (body as { error?: { message: string } }).error?.message;
