import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import type { Logger } from 'pino';
import type { Store } from './db';
import { errorHandler, Refusal } from './errors';
import { renderRoutes } from './routes/render';
import { shopRoutes } from './routes/shops';
import { templateRoutes } from './routes/templates';
import { accessToken, hostAndOrigin, strictHeaders } from './trust';

/** What the routes work with. The clock and ids come from outside. */
export interface Services {
  store: Store;
  now: () => Date;
  newId: () => string;
  log: Logger;
}

export interface AppOptions extends Services {
  /** Folder of the built interface; left out in development. */
  web?: string;
  /** Folder of the demo's pictures. */
  pictures: string;
  token?: string;
}

const MAX_BODY = 10_000_000;

/** The whole server as one handler: API, pictures and interface. */
export function createApp(options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(strictHeaders());
  app.use(hostAndOrigin(options.token));
  if (options.token) app.use(accessToken(options.token));
  app.use(compression());
  app.use('/pictures', express.static(options.pictures, { maxAge: '1h', fallthrough: false }));
  app.use('/api', express.json({ limit: MAX_BODY }));
  app.use('/api', templateRoutes(options), renderRoutes(options), shopRoutes(options));
  app.use('/api', () => {
    throw new Refusal(404, 'There is nothing at this address of the API.');
  });
  const { web } = options;
  if (web && existsSync(web)) {
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }));
    app.use(express.static(web, { index: false, maxAge: 0 }));
    app.use((_request, response) => {
      response.sendFile(join(web, 'index.html'), { headers: { 'cache-control': 'no-cache' } });
    });
  }
  app.use(errorHandler(options.log));
  return app;
}
