import {
  CreateTemplate,
  SaveTemplate,
  type Conflict,
  type StoredTemplate,
  type TemplateSummary,
} from '@carafe/contract';
import { dataRead } from '@carafe/core/check';
import {
  fromLayout,
  LAYOUTS,
  readTemplate,
  templateJsonSchema,
  type Template,
} from '@carafe/core/template';
import { Router } from 'express';
import type { Services } from '../app';
import { Refusal } from '../errors';
import { previewMail } from '../preview';

/** Reads a document or refuses it with every place that is wrong. */
export function templateOrRefuse(document: unknown): Template {
  const read = readTemplate(document);
  if (read.ok) return read.template;
  const [first] = read.problems;
  const where = first?.path ? `${first.path}: ` : '';
  throw new Refusal(
    422,
    `This template cannot be read. ${where}${first?.message ?? ''}`,
    read.problems,
  );
}

function summary({ id, version, updated_at, template }: StoredTemplate): TemplateSummary {
  const { name, shop } = template as Template;
  return { id, name, shop, version, updated_at, reads: dataRead(template as Template) };
}

export function templateRoutes({ store, now, newId }: Services): Router {
  const router = Router();
  const { templates, shops } = store;
  const found = (id: string): StoredTemplate => {
    const stored = templates.find(id);
    if (!stored) throw new Refusal(404, 'There is no such template; perhaps it was deleted.');
    return stored;
  };

  const newTemplate = (asked: CreateTemplate): Template => {
    if ('template' in asked) return templateOrRefuse(asked.template);
    if ('copy_of' in asked)
      return { ...(found(asked.copy_of).template as Template), name: asked.name };
    const layout = LAYOUTS.find(({ id }) => id === asked.layout);
    if (!layout) throw new Refusal(400, `There is no layout “${asked.layout}”.`);
    if (!shops.find(asked.shop)) throw new Refusal(400, `There is no shop “${asked.shop}”.`);
    return fromLayout(layout, asked.name, asked.shop, newId);
  };

  router.get('/templates', (_request, response) => {
    response.json({ templates: templates.list().map(summary) });
  });
  router.post('/templates', (request, response) => {
    const template = newTemplate(CreateTemplate.parse(request.body));
    response.status(201).json(templates.insert(newId(), template, now().toISOString()));
  });
  router.get('/templates/:id', (request, response) => {
    response.json(found(request.params.id));
  });
  router.put('/templates/:id', (request, response) => {
    const { version, template } = SaveTemplate.parse(request.body);
    const saved = templates.save(
      request.params.id,
      version,
      templateOrRefuse(template),
      now().toISOString(),
    );
    if (saved.ok) {
      response.json(saved.stored);
      return;
    }
    if (!saved.current) throw new Refusal(404, 'This template was deleted; nothing was saved.');
    const conflict: Conflict = {
      error: {
        message: 'This template was changed elsewhere in the meantime. Nothing was overwritten.',
      },
      current: saved.current,
    };
    response.status(409).json(conflict);
  });
  router.delete('/templates/:id', (request, response) => {
    found(request.params.id);
    templates.remove(request.params.id, now().toISOString());
    response.status(204).end();
  });
  router.post('/templates/:id/restore', (request, response) => {
    if (!templates.restore(request.params.id)) throw new Refusal(404, 'There is no such template.');
    response.json(found(request.params.id));
  });
  router.get('/templates/:id/preview', async (request, response) => {
    const stored = found(request.params.id);
    const mail = await previewMail(store, stored.template as Template, now());
    response.json(mail);
  });
  router.get('/schema/template.json', (_request, response) => {
    response.type('application/schema+json').send(JSON.stringify(templateJsonSchema(), null, 2));
  });
  return router;
}
