import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { Refusal } from '../http/errors';
import { mount } from '../http/mount';
import type { Jobs } from '../jobs/jobs';
import { refuseUnread } from '../people/audience';
import type { SampleJobs } from '../people/samples';
import type { ShopsService } from '../shops/service';
import type { NoteLookJobs } from './noteLooks';
import type { LibraryService } from './service';

interface Given {
  library: LibraryService;
  shops: Pick<ShopsService, 'known'>;
  jobs: Jobs<SampleJobs & NoteLookJobs>;
  now: () => Date;
}

export function libraryRoutes({ library, shops, jobs, now }: Given): Router {
  const router = Router();
  mount(router, ENDPOINTS.listFormulas, ({ params }) => ({
    formulas: library.formulas(shops.known(params.shop)),
  }));
  mount(router, ENDPOINTS.addFormula, ({ params, body }) =>
    library.addFormula(shops.known(params.shop), body),
  );
  mount(router, ENDPOINTS.changeFormula, ({ params, query, body }) =>
    library.changeFormula(params.id, query.version, body),
  );
  mount(router, ENDPOINTS.deleteFormula, ({ params }) => library.removeFormula(params.id) as never);
  mount(router, ENDPOINTS.samples, async ({ params, body: { formula } }) => {
    refuseUnread(formula);
    const shop = shops.known(params.shop);
    const samples = await jobs.run('samples', { shop, formula, now: now().toISOString() });
    if (!samples) throw new Refusal(422, 'This takes too long to calculate for everybody.');
    return samples;
  });
  mount(router, ENDPOINTS.listNotes, ({ params }) =>
    jobs.run('notes', { shop: shops.known(params.shop) }),
  );
  mount(router, ENDPOINTS.noteProducts, ({ params, query }) =>
    jobs.run('noteProducts', { shop: shops.known(params.shop), ...query }),
  );
  mount(router, ENDPOINTS.addNote, ({ params, body }) =>
    library.addNote(shops.known(params.shop), body),
  );
  mount(router, ENDPOINTS.changeNote, ({ params, query, body }) =>
    library.changeNote(params.id, query.version, body),
  );
  mount(router, ENDPOINTS.deleteNote, ({ params }) => library.removeNote(params.id) as never);
  return router;
}
