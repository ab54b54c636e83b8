import { readNdjson } from '@carafe/core/formats';
import { EVENT_KIND_NAMES, eventJsonSchema, type EventKind } from '@carafe/core/record';
import express, { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../app';
import { Refusal } from '../errors';
import { takeEvents } from '../events';

const MAX_EVENTS = 10_000;
const Since = z.object({ since: z.coerce.number().int().min(0).optional() });

/** What a body holds: one event, a list of them, or NDJSON. */
function eventsIn(body: unknown, isNdjson: boolean): unknown[] {
  if (isNdjson && typeof body === 'string') {
    return readNdjson(body).map((line) => {
      if (!line.ok) throw new Refusal(400, `${line.message} Nothing was taken.`);
      return line.value;
    });
  }
  return Array.isArray(body) ? (body as unknown[]) : [body];
}

export function eventRoutes(services: Services): Router {
  const router = Router();
  const ndjson = express.text({
    type: ['application/x-ndjson', 'application/ndjson'],
    limit: '10mb',
  });

  router.post('/events', ndjson, (request, response) => {
    const isNdjson = typeof request.body === 'string';
    const given = eventsIn(request.body, isNdjson);
    if (given.length === 0 || given.length > MAX_EVENTS)
      throw new Refusal(400, `Send 1 to ${MAX_EVENTS} events at once.`);
    const taken = takeEvents(services, given);
    const { refused } = taken;
    response.status(refused.length === given.length ? 422 : 200).json({
      ...taken,
      ...(refused[0] && {
        error: {
          message: `Event ${refused[0].place} cannot be read: ${refused[0].message}`,
          problems: refused.map(({ place, message }) => ({ path: String(place), message })),
        },
      }),
    });
  });

  router.get('/schema/events/:kind.json', (request, response) => {
    const { kind } = request.params;
    if (!EVENT_KIND_NAMES.includes(kind as EventKind))
      throw new Refusal(404, `Events are ${EVENT_KIND_NAMES.join(', ')}.`);
    response
      .type('application/schema+json')
      .send(JSON.stringify(eventJsonSchema(kind as EventKind), null, 2));
  });

  /** What changes, as it happens (server-sent events), from what was heard last on. */
  router.get('/live', (request, response) => {
    const { since } = Since.parse({
      since: request.headers['last-event-id'] ?? request.query['since'],
    });
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    });
    const quit = services.news.listen(({ id, news }) => {
      response.write(`id: ${id}\ndata: ${JSON.stringify(news)}\n\n`);
    }, since);
    request.on('close', quit);
  });
  return router;
}
