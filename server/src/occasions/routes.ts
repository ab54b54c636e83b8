import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { ShopsService } from '../shops/service';
import type { OccasionLooks } from './looking';
import type { SegmentsService } from './segments';
import type { OccasionsService } from './service';

interface Given {
  occasions: OccasionsService;
  looks: OccasionLooks;
  segments: SegmentsService;
  shops: ShopsService;
}

export function occasionRoutes({ occasions, looks, segments, shops }: Given): Router {
  const router = Router();
  const known = (shop: string) => shops.known(shop);
  mount(router, ENDPOINTS.listOccasions, ({ params }) => occasions.list(known(params.shop)));
  mount(router, ENDPOINTS.occasionPresets, ({ params }) => ({
    presets: occasions.presets(known(params.shop)),
  }));
  mount(router, ENDPOINTS.personWhy, ({ params, query }) =>
    looks.why(known(params.shop), query.email),
  );
  mount(router, ENDPOINTS.addOccasion, ({ params, body }) =>
    occasions.add(known(params.shop), body),
  );
  mount(router, ENDPOINTS.changeOccasion, ({ params, body }) =>
    occasions.change(params.id, body.version, body.occasion),
  );
  mount(router, ENDPOINTS.deleteOccasion, ({ params }) => occasions.remove(params.id) as never);
  mount(router, ENDPOINTS.beforePublishing, ({ params }) => occasions.beforePublishing(params.id));
  mount(router, ENDPOINTS.beforeSending, ({ params }) => occasions.beforeSending(params.id));
  mount(router, ENDPOINTS.publishOccasion, ({ params, body }) =>
    occasions.switchOn(params.id, body.version),
  );
  mount(router, ENDPOINTS.switchOff, ({ params, body }) =>
    occasions.switchOff(params.id, body.waiting),
  );
  mount(router, ENDPOINTS.answerCrowd, ({ params, body }) =>
    occasions.answerCrowd(params.id, body.answer),
  );
  mount(router, ENDPOINTS.insideOf, async ({ params, query }) => ({
    people: await looks.inside(params.id, query.limit, query.offset),
  }));
  mount(router, ENDPOINTS.startByHand, ({ params, body }) =>
    occasions.byHand(params.id, body.people, body.name),
  );
  mount(router, ENDPOINTS.replay, ({ params, body }) =>
    looks.replay({ shop: known(params.shop), ...body }),
  );
  mount(router, ENDPOINTS.walk, async ({ params, body }) => ({
    lines: await looks.walk({ shop: known(params.shop), ...body }),
  }));
  mount(router, ENDPOINTS.replayedMail, ({ params, body }) =>
    looks.pastMail(known(params.shop), body),
  );
  mount(router, ENDPOINTS.listByHand, ({ params }) =>
    looks.listed(known(params.shop), params.list),
  );
  mount(router, ENDPOINTS.changeMailRules, ({ params, query, body }) =>
    segments.changeRules(known(params.shop), query.version, body),
  );
  mount(router, ENDPOINTS.listSegments, ({ params }) => ({
    segments: segments.list(known(params.shop)),
  }));
  mount(router, ENDPOINTS.addSegment, ({ params, body }) => segments.add(known(params.shop), body));
  mount(router, ENDPOINTS.changeSegment, ({ params, query, body }) =>
    segments.change(known(params.shop), params.name, query.version, body),
  );
  mount(
    router,
    ENDPOINTS.deleteSegment,
    ({ params }) => segments.remove(known(params.shop), params.name) as never,
  );
  return router;
}
