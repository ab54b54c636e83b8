import {
  ENDPOINTS,
  openApiDocument,
  type AttentionItem,
  type Endpoint,
  type Health,
} from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { MovableClock } from '../schedule/movable';
import type { JobQueue } from '../queue/queue';
import { VERSION } from './health';

export function systemRoutes(
  health: () => Health,
  movable: MovableClock,
  attention: () => AttentionItem[],
  queue: JobQueue,
): Router {
  const router = Router();
  mount(router, ENDPOINTS.health, () => health());
  mount(router, ENDPOINTS.retryJob, ({ params }) => queue.retry(Number(params.id)) as never);
  mount(router, ENDPOINTS.dropJob, ({ params }) => queue.drop(Number(params.id)) as never);
  mount(router, ENDPOINTS.attention, () => ({ items: attention() }));
  mount(router, ENDPOINTS.clock, () => movable.read());
  mount(router, ENDPOINTS.moveClock, ({ body }) => movable.move(body.minutes));
  mount(router, ENDPOINTS.resetClock, () => movable.reset());
  // Made when it is first asked for: it takes a tenth of a second.
  let document: unknown;
  mount(
    router,
    ENDPOINTS.openApi,
    () => (document ??= openApiDocument(ENDPOINTS as never as Record<string, Endpoint>, VERSION)),
  );
  return router;
}
