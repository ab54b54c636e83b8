import { ENDPOINTS } from '@carafe/contract';
import { parse } from '@carafe/core/formula';
import { Router } from 'express';
import { Refusal } from '../http/errors';
import { mount } from '../http/mount';
import type { ImportsService } from '../imports/service';
import type { UserParts } from '../templates/users';
import type { SourcesService } from './service';
import type { SourceRows } from './sourceRows';
import { templateUsage } from './templateUsage';

interface Given {
  sources: SourcesService;
  imports: ImportsService;
  rows: SourceRows;
  /** Where those who use a source are looked for. */
  used: UserParts;
}

export function sourceRoutes({ sources, imports, rows, used }: Given): Router {
  const router = Router();
  mount(router, ENDPOINTS.listSources, () => ({ sources: sources.list() }));
  mount(router, ENDPOINTS.createSource, ({ body }) => sources.create(body));
  mount(router, ENDPOINTS.getSource, ({ params }) => sources.withImports(params.id));
  mount(router, ENDPOINTS.changeSource, ({ params, body }) => sources.change(params.id, body));
  mount(router, ENDPOINTS.deleteSource, ({ params }) => sources.remove(params.id) as never);
  mount(router, ENDPOINTS.restoreSource, ({ params }) => sources.restore(params.id));
  mount(router, ENDPOINTS.sourceRows, ({ params, query }) => {
    const source = sources.find(params.id);
    const parsed = query.filter.trim() === '' ? null : parse(query.filter);
    if (parsed && !parsed.ok)
      throw new Refusal(400, `${parsed.error.message} (column ${parsed.error.column})`);
    return rows.page(source, query);
  });
  mount(router, ENDPOINTS.sourceProfile, async ({ params }) => {
    const source = sources.find(params.id);
    const profile = await rows.profile(source);
    return { ...profile, used_by: templateUsage(used, source) };
  });
  mount(router, ENDPOINTS.uploadFile, async ({ params, query, request }) => {
    const source = sources.find(params.id);
    const one = await imports.receive(source, query.name || 'file', request);
    return imports.look(one.id);
  });
  mount(router, ENDPOINTS.fetchSource, async ({ params, response }) => {
    const fetched = await sources.fetch(params.id);
    if (fetched.look) response.status(201).json(fetched);
    return fetched;
  });
  mount(router, ENDPOINTS.typeRows, ({ params, body }) => sources.type(params.id, body.records));
  mount(
    router,
    ENDPOINTS.deleteRow,
    ({ params }) => sources.deleteRow(params.id, params.key) as never,
  );
  return router;
}
