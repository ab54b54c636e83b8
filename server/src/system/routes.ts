import { ENDPOINTS, openApiDocument, type AttentionItem, type Endpoint } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { MovableClock } from '../schedule/movable';
import type { Clock } from '../schedule/clock';

export const VERSION = '0.1.0';

export function systemRoutes(
  clock: Clock,
  files: { room: () => { count: number; bytes: number } },
  movable: MovableClock,
  attention: () => AttentionItem[],
): Router {
  const router = Router();
  mount(router, ENDPOINTS.health, () => ({
    version: VERSION,
    ready: true,
    clock_age_seconds: clock.age(),
    waiting_files: files.room(),
  }));
  mount(router, ENDPOINTS.attention, () => ({ items: attention() }));
  mount(router, ENDPOINTS.clock, () => movable.read());
  mount(router, ENDPOINTS.moveClock, ({ body }) => movable.move(body.minutes));
  mount(router, ENDPOINTS.resetClock, () => movable.reset());
  const document = openApiDocument(ENDPOINTS as never as Record<string, Endpoint>, VERSION);
  mount(router, ENDPOINTS.openApi, () => document);
  return router;
}
