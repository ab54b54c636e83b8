import { Router } from 'express';
import { z } from 'zod';
import type { LiveUpdates } from './liveUpdates';

const Since = z.object({ since: z.string().max(100).optional() });

/** What changes, as it happens (server-sent events), from what was heard last on. */
export function liveRoutes(updates: LiveUpdates): Router {
  const router = Router();
  router.get('/live', (request, response) => {
    const { since } = Since.parse({
      since: request.headers['last-event-id'] ?? request.query['since'],
    });
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    });
    const quit = updates.listen(({ id, update }) => {
      response.write(`id: ${id}\ndata: ${JSON.stringify(update)}\n\n`);
    }, since);
    const forget = updates.onClose(() => response.end());
    request.on('close', () => {
      quit();
      forget();
    });
  });
  return router;
}
