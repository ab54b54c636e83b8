import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { ShopsService } from '../shops/service';
import type { SurveyService } from './service';

export function surveyRoutes(surveys: SurveyService, shops: ShopsService): Router {
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
  return router;
}
