import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { nanoid } from 'nanoid';
import { pino } from 'pino';
import { plainErrors } from '@carafe/core/errors';
import { compose } from './compose';
import { LocalLane } from './database/lane';
import { openStore } from './database/store';
import { lockFolder } from './database/folderLock';
import { drawPictures } from './demo/loadDemo';
import { isLoopback } from './http/trust';
import { jobHandlers } from './jobs/handlers';
import { inlineJobs } from './jobs/inline';
import { threadJobs } from './jobs/threads';
import { openRepositories } from './repositories';
import { sayStartProblem } from './startProblem';

// The entry of the server: the only place that knows the real clock, ids and environment.
const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');
const { PORT = '4600', HOST = '127.0.0.1', CARAFE_DATA, CARAFE_TOKEN, CARAFE_NOW } = process.env;
const { CARAFE_SMTP_PASSWORD, CARAFE_SMTP_PASSWORD_FILE, CARAFE_DKIM_KEY_FILE } = process.env;
const { CARAFE_SMTP_PASSWORD_HOST } = process.env;
/** When the server stops, answers that are under way have so long to be finished, in milliseconds. */
const STOP_MS = 10_000;
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });

if (!isLoopback(HOST) && !CARAFE_TOKEN) {
  console.error(`Carafe binds to ${HOST} only with an access token: set CARAFE_TOKEN.`);
  process.exit(1);
}
const port = Number(PORT);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`PORT must be a number from 0 to 65535, not “${PORT}”.`);
  process.exit(1);
}

const data = CARAFE_DATA ? resolve(CARAFE_DATA) : join(root, 'data');

/** Starts the server; whatever keeps it from starting is thrown. */
async function start(): Promise<void> {
  mkdirSync(data, { recursive: true });
  const folderLock = lockFolder(data);
  const file = join(data, 'carafe.db');
  // For tests and pictures the clock can be held still.
  const begin = CARAFE_NOW ? Date.parse(CARAFE_NOW) : null;
  let moved = 0;
  const now = () => new Date((begin ?? Date.now()) + moved);
  const migrations = join(root, 'server', 'migrations');
  const isSource = import.meta.url.endsWith('.ts');
  const worker = new URL(isSource ? './jobs/worker.ts' : './jobs/worker.js', import.meta.url);
  let bound = port;
  // Who listens on every address is asked by the one of this machine.
  const own = ['0.0.0.0', '::'].includes(HOST)
    ? '127.0.0.1'
    : HOST.includes(':')
      ? `[${HOST}]`
      : HOST;
  const lane = new LocalLane();
  const pictures = join(data, 'pictures');
  const common = {
    folder: data,
    files: join(data, 'files'),
    pictures,
    library: join(data, 'library'),
    web: join(root, 'web', 'dist'),
    now,
    newId: () => nanoid(10),
    log,
    token: CARAFE_TOKEN,
    mailPassword: () =>
      CARAFE_SMTP_PASSWORD ??
      (CARAFE_SMTP_PASSWORD_FILE && existsSync(CARAFE_SMTP_PASSWORD_FILE)
        ? readFileSync(CARAFE_SMTP_PASSWORD_FILE, 'utf8').trim()
        : null),
    mailPasswordHost: CARAFE_SMTP_PASSWORD_HOST ?? null,
    dkimKeyFile: CARAFE_DKIM_KEY_FILE,
    setMoved: (milliseconds: number) => {
      moved = milliseconds;
    },
    real: () => Date.now(),
    self: () => `http://${own}:${bound}`,
  };
  plainErrors();
  if (!existsSync(file)) {
    // The first data is made beside, so that a start that is cut off leaves nothing half done.
    const first = join(data, 'first.db');
    for (const name of [first, `${first}-wal`, `${first}-shm`]) rmSync(name, { force: true });
    const store = openStore(first, migrations, lane);
    const jobs = inlineJobs(jobHandlers(store, openRepositories(store.db)));
    await compose({ ...common, store, jobs }).loadDemo();
    store.close();
    renameSync(first, file);
  }
  const store = openStore(file, migrations, lane);
  drawPictures(pictures);

  const jobs = threadJobs({ database: file, migrations, worker, lane });
  const { app, clock, imports, mailServer, runner, sender, tables, updates, watch } = compose({
    ...{ ...common, store, jobs },
  });
  moved = tables.movedClock.moved();
  const server = app.listen(port, HOST, (error?: Error) => {
    if (error) {
      const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
      console.error(taken ? `Port ${port} is in use: set PORT to another.` : error.message);
      process.exit(1);
    }
    const address = server.address();
    bound = typeof address === 'object' && address ? address.port : port;
    console.log(`Carafe is at http://${HOST}:${bound}`);
  });
  // A client that sends on a kept connection just as it is closed would see it broken off.
  server.keepAliveTimeout = 65_000;
  server.headersTimeout = 66_000;
  // What the last stop has cut off is made good while the server answers already.
  const recovered = imports.recover().catch((error: unknown) => log.error(error));
  // Beside the server's own port where that is free, else wherever there is room.
  mailServer
    .start(port === 0 ? 0 : Math.min(65_535, port + 25))
    .catch(() => mailServer.start(0))
    .catch((error: unknown) => log.error(error))
    // What waits since the last stop is looked at as soon as mails can leave, and people are put together as they are.
    .then(() => recovered)
    .then(() => runner.begin())
    .catch((error: unknown) => log.error(error));
  watch.begin();
  clock.start();

  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      clock.stop();
      // Answers that are under way are finished; what only listens is told to come back.
      updates.close();
      server.closeIdleConnections();
      // A connection that is kept open goes as soon as its answer is through.
      const closing = setInterval(() => server.closeIdleConnections(), 100);
      const deadline = setTimeout(() => server.closeAllConnections(), STOP_MS);
      server.close(() => {
        clearTimeout(deadline);
        clearInterval(closing);
        void sender
          .stop()
          .then(() => mailServer.stop())
          .then(() => jobs.close())
          .then(() => {
            store.close();
            folderLock.release();
            process.exit(0);
          });
      });
    });
  }
}

start().catch((error: unknown) => {
  const said = sayStartProblem(error, data);
  console.error(said ?? 'Carafe could not start:');
  if (said === null) console.error(error);
  process.exit(1);
});
