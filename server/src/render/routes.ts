import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { RenderService } from './service';

export function renderRoutes(render: RenderService): Router {
  const router = Router();
  mount(router, ENDPOINTS.render, async ({ body, response }) => {
    const answer = await render.render(body);
    const broken = answer.mails.filter(({ state }) => state === 'broken').length;
    const isUnreadable = answer.findings.some(({ severity }) => severity === 'error');
    // What must not be sent is never a plain 200.
    if (isUnreadable || (broken > 0 && broken === answer.mails.length))
      response.status(422).json(answer);
    else if (broken > 0) response.status(207).json(answer);
    return answer;
  });
  mount(router, ENDPOINTS.skeletons, ({ body }) => render.skeletons(body.template));
  return router;
}
