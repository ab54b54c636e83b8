import { ENDPOINTS } from '@carafe/contract';
import { templateJsonSchema, type Template } from '@carafe/core/template';
import { Router } from 'express';
import { JsonText, mount } from '../http/mount';
import type { RenderService } from '../render/service';
import type { TemplateWatch } from '../survey/watch';
import type { Publishing } from './publishing';
import type { TemplatesService } from './service';

export function templateRoutes(
  templates: TemplatesService,
  publishing: Publishing,
  watch: Pick<TemplateWatch, 'letGo'>,
  render: Pick<RenderService, 'makeAhead'>,
): Router {
  const router = Router();
  mount(router, ENDPOINTS.listPublished, ({ params }) => ({
    versions: publishing.list(params.id),
  }));
  mount(router, ENDPOINTS.getPublished, ({ params }) =>
    publishing.version(params.id, Number(params.number)),
  );
  mount(router, ENDPOINTS.publishTemplate, ({ params, body }) =>
    publishing.publish(params.id, body),
  );
  mount(router, ENDPOINTS.listTemplates, () => ({ templates: templates.list() }));
  mount(router, ENDPOINTS.createTemplate, ({ body }) => templates.create(body));
  mount(router, ENDPOINTS.getTemplate, ({ params }) => {
    const stored = templates.find(params.id);
    // Whoever opens it is shown its mail next.
    render.makeAhead(stored.template as Template);
    return stored;
  });
  mount(router, ENDPOINTS.saveTemplate, async ({ params, body, response }) => {
    const done = await templates.save(params.id, body.version, body.template);
    if ('saved' in done) return done.saved;
    response.status(409).json(done.conflict);
    return done.conflict.current;
  });
  mount(router, ENDPOINTS.letTemplateGo, ({ params }) => watch.letGo(params.id) as never);
  mount(router, ENDPOINTS.deleteTemplate, ({ params }) => templates.remove(params.id) as never);
  mount(router, ENDPOINTS.restoreTemplate, ({ params }) => templates.restore(params.id));
  mount(router, ENDPOINTS.previewTemplate, ({ params, query, response }) =>
    templates.preview(params.id, () => response.destroyed, query.person),
  );
  mount(
    router,
    ENDPOINTS.templateSchema,
    () => new JsonText(JSON.stringify(templateJsonSchema(), null, 2), 'application/schema+json'),
  );
  return router;
}
