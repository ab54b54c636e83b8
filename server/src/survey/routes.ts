import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { ShopsService } from '../shops/service';
import type { LookedVariants } from './looked';
import type { TestRecipients } from './testRecipients';
import type { SurveyService } from './service';

export function surveyRoutes(
  surveys: SurveyService,
  tests: TestRecipients,
  looked: LookedVariants,
  shops: ShopsService,
): Router {
  const router = Router();
  const known = ({ shop }: { shop: string }) => shops.known(shop);
  mount(router, ENDPOINTS.survey, ({ params, body }) => surveys.survey(known(params), body));
  mount(router, ENDPOINTS.impact, ({ params, body }) => surveys.impact(known(params), body));
  mount(router, ENDPOINTS.checkTemplate, ({ params, body }) => surveys.check(known(params), body));
  mount(router, ENDPOINTS.checkWhole, ({ body }) => surveys.whole(body));
  mount(router, ENDPOINTS.proposeExpectations, ({ params, body }) =>
    surveys.propose(known(params), body),
  );
  mount(router, ENDPOINTS.fillDraft, ({ params, body }) => surveys.filled(known(params), body));
  mount(router, ENDPOINTS.askLinks, ({ params, body }) => surveys.links(known(params), body));
  mount(router, ENDPOINTS.lookedVariants, ({ params }) => looked.list(params.id));
  mount(router, ENDPOINTS.lookAtVariant, ({ params, body }) =>
    looked.put(params.id, body.variant, body.mark),
  );
  mount(router, ENDPOINTS.makeOne, ({ params, body }) => tests.make(known(params), body));
  mount(router, ENDPOINTS.listTestRecipients, ({ params }) => tests.list(known(params)));
  mount(router, ENDPOINTS.addTestRecipient, ({ params, body }) => tests.add(known(params), body));
  mount(router, ENDPOINTS.changeTestRecipient, ({ params, body }) =>
    tests.change(known(params), Number(params.id), body),
  );
  mount(
    router,
    ENDPOINTS.deleteTestRecipient,
    ({ params }) => tests.remove(known(params), Number(params.id)) as never,
  );
  return router;
}
