import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesService } from '../sources/service';
import { importRows, rejectedCsv } from './importRows';
import type { ImportsService } from './service';

interface Given {
  imports: ImportsService;
  sources: Pick<SourcesService, 'apply'>;
  entries: Pick<EntriesRepository, 'find' | 'pageRows'>;
}

export function importRoutes({ imports, sources, entries }: Given): Router {
  const router = Router();
  const summary = (id: string) => imports.summary(imports.find(id));
  mount(router, ENDPOINTS.getImport, ({ params }) => summary(params.id));
  mount(router, ENDPOINTS.discardImport, ({ params }) => imports.discard(params.id) as never);
  mount(router, ENDPOINTS.lookAtImport, ({ params }) => imports.look(params.id));
  mount(router, ENDPOINTS.lookAgain, ({ params, body }) =>
    imports.look(params.id, body.settings ?? {}),
  );
  mount(router, ENDPOINTS.checkImport, async ({ params, body }) => {
    await imports.check(params.id, body);
    return summary(params.id);
  });
  mount(router, ENDPOINTS.stopImport, ({ params }) => {
    imports.stop(params.id);
    return summary(params.id);
  });
  mount(router, ENDPOINTS.importRows, ({ params, query: { outcome, limit, offset } }) => ({
    rows: importRows(entries, imports.find(params.id), outcome, limit, offset),
  }));
  router.get('/imports/:id/rejected.csv', async (request, response) => {
    await rejectedCsv(imports.find(request.params.id), response);
  });
  mount(router, ENDPOINTS.applyImport, ({ params }) => sources.apply(params.id));
  mount(router, ENDPOINTS.undoImport, async ({ params }) =>
    imports.summary(await imports.undo(params.id)),
  );
  return router;
}
