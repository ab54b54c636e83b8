import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { SourceTarget } from '@carafe/contract';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import type { Logger } from 'pino';
import type { Store } from './db';
import { errorHandler, Refusal } from './errors';
import type { WriteGate } from './gate';
import type { Imports } from './imports/service';
import type { Jobs } from './jobs/work';
import type { News } from './news';
import type { SourceRows } from './rowsofsource';
import { eventRoutes } from './routes/events';
import { renderRoutes } from './routes/render';
import { shopRoutes } from './routes/shops';
import { sourceRoutes } from './routes/sources';
import { templateRoutes } from './routes/templates';
import { journalRoutes } from './standins/journal';
import { standInShopRoutes } from './standins/shop';
import type { ShopShapes } from './shape';
import { accessToken, hostAndOrigin, strictHeaders } from './trust';

/** What the routes work with. The clock and ids come from outside. */
export interface Services {
  store: Store;
  jobs: Jobs;
  imports: Imports;
  rows: SourceRows;
  shapes: ShopShapes;
  gate: WriteGate;
  news: News;
  now: () => Date;
  newId: () => string;
  log: Logger;
  /** The address that this server answers at, for its own stand-ins. */
  self: () => string;
  /** The access token that is asked for; without one, only this machine is answered. */
  token?: string | undefined;
  /** Makes anew what sources of a kind feed, for a shop or all. */
  refreshFor: (target: SourceTarget, shop: string | null) => void;
}

export interface AppOptions {
  /** Folder of the built interface; left out in development. */
  web?: string;
  /** Folder of the demo's pictures. */
  pictures: string;
}

const MAX_BODY = 10_000_000;

/** Changes wait while a thread writes; reading goes on. */
function waitForWriters(gate: WriteGate): RequestHandler {
  return async (request, _response, next) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') await gate.free();
    next();
  };
}

/** The whole server as one handler: API, stand-ins, pictures and interface. */
export function createApp(services: Services, options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(strictHeaders());
  app.use(hostAndOrigin(services.token));
  if (services.token) app.use(accessToken(services.token));
  app.use(compression());
  app.use('/pictures', express.static(options.pictures, { maxAge: '1h', fallthrough: false }));
  app.use(['/api', '/journal'], express.json({ limit: MAX_BODY }), waitForWriters(services.gate));
  app.use(
    '/api',
    templateRoutes(services),
    renderRoutes(services),
    shopRoutes(services),
    sourceRoutes(services),
    eventRoutes(services),
  );
  app.use('/api', () => {
    throw new Refusal(404, 'There is nothing at this address of the API.');
  });
  app.use('/shop', standInShopRoutes(services));
  app.use('/journal', journalRoutes(services));
  const { web } = options;
  if (web && existsSync(web)) serveInterface(app, web);
  app.use(errorHandler(services.log));
  return app;
}

/** The pages of the interface and the stand-ins; the rest of their addresses is theirs to read. */
function serveInterface(app: Express, web: string): void {
  const page = (name: string): RequestHandler => {
    return (_request, response) => {
      response.sendFile(join(web, name), { headers: { 'cache-control': 'no-cache' } });
    };
  };
  app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(web, { index: false, maxAge: 0 }));
  app.use('/shop', page('shop.html'));
  app.use('/journal', page('journal.html'));
  app.use(page('index.html'));
}
