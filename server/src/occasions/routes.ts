import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { ShopsService } from '../shops/service';
import type { OccasionsService } from './service';

export function occasionRoutes(occasions: OccasionsService, shops: ShopsService): Router {
  const router = Router();
  const known = (shop: string) => shops.known(shop);
  mount(router, ENDPOINTS.listOccasions, ({ params }) => occasions.list(known(params.shop)));
  mount(router, ENDPOINTS.occasionPresets, ({ params }) => ({
    presets: occasions.presets(known(params.shop)),
  }));
  mount(router, ENDPOINTS.personWhy, ({ params, query }) =>
    occasions.why(known(params.shop), query.email),
  );
  mount(router, ENDPOINTS.addOccasion, ({ params, body }) =>
    occasions.add(known(params.shop), body),
  );
  mount(router, ENDPOINTS.changeOccasion, ({ params, body }) =>
    occasions.change(params.id, body.version, body.occasion),
  );
  mount(router, ENDPOINTS.deleteOccasion, ({ params }) => occasions.remove(params.id) as never);
  mount(router, ENDPOINTS.beforePublishing, ({ params }) => occasions.beforePublishing(params.id));
  mount(router, ENDPOINTS.publishOccasion, ({ params, body }) =>
    occasions.switchOn(params.id, body.version),
  );
  mount(router, ENDPOINTS.switchOff, ({ params }) => occasions.switchOff(params.id));
  mount(router, ENDPOINTS.insideOf, ({ params, query }) => ({
    people: occasions.inside(params.id, query.limit, query.offset),
  }));
  mount(router, ENDPOINTS.startByHand, ({ params, body }) =>
    occasions.byHand(params.id, body.people, body.name),
  );
  mount(router, ENDPOINTS.replay, ({ params, body }) =>
    occasions.replay({ shop: known(params.shop), ...body }),
  );
  mount(router, ENDPOINTS.walk, async ({ params, body }) => ({
    lines: await occasions.walk({ shop: known(params.shop), ...body }),
  }));
  mount(router, ENDPOINTS.replayedMail, ({ params, body }) =>
    occasions.pastMail(known(params.shop), body),
  );
  mount(router, ENDPOINTS.listByHand, ({ params }) => ({
    rows: occasions.listed(known(params.shop), params.list),
  }));
  mount(router, ENDPOINTS.changeMailRules, ({ params, body }) =>
    occasions.changeRules(known(params.shop), body),
  );
  mount(router, ENDPOINTS.listSegments, ({ params }) => ({
    segments: occasions.segments(known(params.shop)),
  }));
  mount(router, ENDPOINTS.addSegment, ({ params, body }) =>
    occasions.addSegment(known(params.shop), body),
  );
  mount(router, ENDPOINTS.changeSegment, ({ params, body }) =>
    occasions.changeSegment(known(params.shop), params.name, body),
  );
  mount(
    router,
    ENDPOINTS.deleteSegment,
    ({ params }) => occasions.removeSegment(known(params.shop), params.name) as never,
  );
  return router;
}
