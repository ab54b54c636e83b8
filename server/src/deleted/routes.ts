import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { DeletedService } from './service';

/** What was deleted, and restoring it. */
export function deletedRoutes(deleted: DeletedService): Router {
  const router = Router();
  mount(router, ENDPOINTS.listDeleted, () => ({ deleted: deleted.list() }));
  mount(router, ENDPOINTS.restoreDeleted, ({ params }) => deleted.restore(params.kind, params.id));
  return router;
}
