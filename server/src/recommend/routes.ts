import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { ShopsService } from '../shops/service';
import type { RulesService } from './service';

interface Given {
  rules: RulesService;
  shops: Pick<ShopsService, 'known'>;
}

export function ruleRoutes({ rules, shops }: Given): Router {
  const router = Router();
  mount(router, ENDPOINTS.listRules, ({ params }) => ({
    rules: rules.list(shops.known(params.shop)),
  }));
  mount(router, ENDPOINTS.addRule, ({ params, body }) => rules.add(shops.known(params.shop), body));
  mount(router, ENDPOINTS.changeRule, ({ params, query, body }) =>
    rules.change(params.id, query.version, body),
  );
  mount(router, ENDPOINTS.publishRule, ({ params, query }) =>
    rules.publish(params.id, query.version),
  );
  mount(router, ENDPOINTS.copyRule, ({ params, body }) =>
    rules.copy(params.id, shops.known(body.shop)),
  );
  mount(router, ENDPOINTS.deleteRule, ({ params }) => rules.remove(params.id) as never);
  mount(router, ENDPOINTS.ruleFigures, ({ params, query }) =>
    rules.figures(params.id, query.after),
  );
  mount(router, ENDPOINTS.tryRule, ({ params, body, response }) => {
    // Whoever does not wait any more stops it.
    const left = new AbortController();
    response.on('close', () => left.abort());
    return rules.tried(params.id, body, left.signal);
  });
  mount(router, ENDPOINTS.picksOf, ({ params, query }) =>
    rules.picksOfAny(params.rule, params.person, query.shop),
  );
  mount(router, ENDPOINTS.picks, ({ params, query }) =>
    rules.picks(shops.known(params.shop), params.rule, params.person, query.version),
  );
  return router;
}
