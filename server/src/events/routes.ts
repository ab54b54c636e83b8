import { ENDPOINTS } from '@carafe/contract';
import { readNdjson } from '@carafe/core/formats';
import { EVENT_KIND_NAMES, eventJsonSchema, type EventKind } from '@carafe/core/record';
import express, { Router } from 'express';
import { Refusal } from '../http/errors';
import { JsonText, mount } from '../http/mount';
import type { EventsService } from './service';

const MAX_EVENTS = 10_000;

/** A line that is no JSON: it is refused by itself, as an event would be that cannot be read. */
class BadLine {
  constructor(readonly message: string) {}
}

/** What a body holds: one event, a list of them, or NDJSON. */
function eventsIn(body: unknown): unknown[] {
  if (typeof body === 'string')
    return readNdjson(body).map((line) => (line.ok ? line.value : new BadLine(line.message)));
  return Array.isArray(body) ? (body as unknown[]) : [body];
}

export function eventRoutes(events: EventsService): Router {
  const router = Router();
  router.post(
    ENDPOINTS.postEvents.path,
    express.text({ type: ['application/x-ndjson', 'application/ndjson'], limit: '10mb' }),
  );
  mount(router, ENDPOINTS.postEvents, async ({ body, response }) => {
    const given = eventsIn(body);
    if (given.length === 0 || given.length > MAX_EVENTS)
      throw new Refusal(400, `Send 1 to ${MAX_EVENTS.toLocaleString('en-GB')} events at once.`);
    const taken = await events.take(given.map((one) => (one instanceof BadLine ? null : one)));
    const refused = taken.refused.map(({ place, message }) => {
      const line = given[place - 1];
      return { place, message: line instanceof BadLine ? line.message : message };
    });
    const [first] = refused;
    if (!first) return taken;
    response.status(refused.length === given.length ? 422 : 200).json({
      ...{ ...taken, refused },
      error: {
        message: `Event ${first.place} cannot be read: ${first.message}`,
        problems: refused.map(({ place, message }) => ({ path: String(place), message })),
      },
    });
    return taken;
  });
  mount(router, ENDPOINTS.eventSchema, ({ params }) => {
    const kind = params.kind.replace(/\.json$/, '');
    if (!EVENT_KIND_NAMES.includes(kind as EventKind))
      throw new Refusal(404, `Events are ${EVENT_KIND_NAMES.join(', ')}.`);
    const schema = eventJsonSchema(kind as EventKind);
    return new JsonText(JSON.stringify(schema, null, 2), 'application/schema+json');
  });
  return router;
}
