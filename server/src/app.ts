import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ENDPOINTS } from '@carafe/contract';
import compression from 'compression';
import express, { type Express, type RequestHandler, type Router } from 'express';
import type { Logger } from 'pino';
import { refuseDeep } from './http/bodyDepth';
import { errorHandler, Refusal } from './http/errors';
import { accessToken, hostAndOrigin, strictHeaders } from './http/trust';

interface Given {
  api: Router[];
  /** What links in mails lead to: open to everybody. */
  home: Router;
  /** The stand-ins. */
  shop: Router;
  journal: Router;
  log: Logger;
  /** Folder of the demo's pictures. */
  pictures: string;
  /** The pictures of the library. */
  library: Router;
  /** Folder of the built interface; left out in development. */
  web?: string | undefined;
  token?: string | undefined;
}

const MAX_BODY = 10_000_000;
/** Where files are sent to: their body is a file, whatever type it says it is. */
const FILE = /^\/(?:sources\/[^/]+\/file|pictures|pictures\/[^/]+\/file)$/;

/** The whole server as one handler: API, stand-ins, pictures and interface. */
export function createApp({
  api,
  home,
  shop,
  journal,
  log,
  pictures,
  library,
  web,
  token,
}: Given): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(strictHeaders());
  app.use(home);
  app.use('/pictures', ...openPictures(pictures, library));
  app.use(hostAndOrigin(token));
  if (token) app.use(accessToken(token));
  app.use(compression());
  const json = express.json({
    limit: MAX_BODY,
    verify: (_request, _response, body) => refuseDeep(body),
  });
  const readBody: RequestHandler = (request, response, next) =>
    FILE.test(request.path) ? next() : json(request, response, next);
  app.use(['/api', '/journal'], readBody);
  app.use('/api', ...api);
  app.use('/api', (request, response) => {
    const allowed = methodsAt(request.path);
    if (allowed.length === 0)
      throw new Refusal(404, 'There is nothing at this address of the API.');
    response.set('allow', allowed.join(', '));
    throw new Refusal(
      405,
      `${request.method} is not supported at this address of the API. Use ${allowed.join(' and ')}.`,
    );
  });
  app.use('/shop', shop);
  app.use('/journal', journal);
  if (web && existsSync(web)) serveInterface(app, web);
  app.use(errorHandler(log));
  return app;
}

/**
 * Pictures of emails, for whoever reads one: by any name of this machine, without a token, and for the pages of webmail. They
 * are kept long. Nothing but pictures is read here.
 */
function openPictures(pictures: string, library: Router): RequestHandler[] {
  return [
    ({ method }, response, next) => {
      if (method !== 'GET' && method !== 'HEAD') {
        response.set('allow', 'GET, HEAD');
        throw new Refusal(405, 'Pictures can only be read here.');
      }
      response.set('cross-origin-resource-policy', 'cross-origin');
      response.set('access-control-allow-origin', '*');
      next();
    },
    library,
    express.static(pictures, { maxAge: '7d' }),
    () => {
      throw new Refusal(404, 'There is no such picture.');
    },
  ];
}

/** Which methods an address of the API is asked with. */
function methodsAt(path: string): string[] {
  const parts = path.split('/');
  const fits = (pattern: string) => {
    const wanted = pattern.split('/');
    return (
      wanted.length === parts.length &&
      wanted.every((part, i) => (part.startsWith(':') ? parts[i] !== '' : part === parts[i]))
    );
  };
  return [
    ...new Set(
      Object.values(ENDPOINTS).flatMap(({ method, path: pattern }) =>
        fits(pattern) ? [method] : [],
      ),
    ),
  ];
}

/** Where the interface has pages; anywhere else it says that there is none. */
const PAGES =
  /^\/(?:$|templates(?:\/|$)|recommendations(?:\/|$)|occasions(?:\/|$)|outbox(?:\/|$)|people(?:\/|$)|library(?:\/|$)|sources(?:\/|$)|mailbox(?:\/|$))/;

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
  app.use((request, response, next) => {
    if (!PAGES.test(request.path)) response.status(404);
    void page('index.html')(request, response, next);
  });
}
