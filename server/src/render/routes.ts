import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { RenderService } from './service';

export function renderRoutes(render: RenderService): Router {
  const router = Router();
  mount(router, ENDPOINTS.render, ({ body }) => render.render(body));
  mount(router, ENDPOINTS.skeletons, ({ body }) => render.skeletons(body.template));
  return router;
}
