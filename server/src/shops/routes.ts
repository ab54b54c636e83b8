import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { JsonText, mount } from '../http/mount';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import { refuseUnread, type AudienceJobs } from '../people/audience';
import type { PeopleLookJobs } from '../people/lookJobs';
import type { PeopleRepository } from '../people/repository';
import type { RulesService } from '../recommend/service';
import type { ShopsService } from './service';
import type { ShopShapes } from './shopShapes';

interface Given {
  shops: ShopsService;
  people: Pick<PeopleRepository, 'list' | 'some' | 'facets' | 'areMany'>;
  shapes: ShopShapes;
  rules: Pick<RulesService, 'ofMany'>;
  jobs: Jobs<AudienceJobs & PeopleLookJobs>;
  now: () => Date;
}

const numbers = (ids: string) => ids.split(',').map(Number);

export function shopRoutes({ shops, people, shapes, rules, jobs, now }: Given): Router {
  const router = Router();
  mount(router, ENDPOINTS.listShops, () => ({ shops: shops.list() }));
  mount(router, ENDPOINTS.createShop, ({ body }) => shops.create(body));
  mount(router, ENDPOINTS.changeShop, ({ params, query, body }) =>
    shops.change(params.shop, query.version, body),
  );
  mount(router, ENDPOINTS.sharedData, async ({ params, body }) => {
    const { text, lengths, library } = await shops.sharedText(
      params.shop,
      body.catalogs,
      body.as_of,
    );
    return new JsonText(
      `{"shared":${text},"lengths":${JSON.stringify(lengths)},"library":${JSON.stringify(library)}}`,
    );
  });
  mount(router, ENDPOINTS.shape, ({ params }) => shapes.of(shops.known(params.shop)));
  mount(
    router,
    ENDPOINTS.listRecipients,
    ({ params, query: { having, q, limit, offset, ...filter } }) => {
      const shop = shops.known(params.shop);
      const wanted = { having, search: q, filter };
      // A few are listed at once, and many beside the server.
      return people.areMany(shop)
        ? jobs.run('recipients', { shop, wanted, limit, offset })
        : people.list(shop, wanted, limit, offset);
    },
  );
  mount(router, ENDPOINTS.audience, async ({ params, body: { formula } }) => {
    refuseUnread(formula);
    const shop = shops.known(params.shop);
    const audience = await jobs.run('audience', { shop, formula, now: now().toISOString() });
    if (!audience)
      throw new Refusal(
        422,
        'This takes too long to count for everybody. The condition itself still works.',
      );
    return audience;
  });
  mount(router, ENDPOINTS.recipientFacets, ({ params }) => {
    const shop = shops.known(params.shop);
    return people.areMany(shop) ? jobs.run('facets', { shop }) : people.facets(shop);
  });
  mount(router, ENDPOINTS.someRecipients, ({ params, query }) => ({
    recipients: people.some(shops.known(params.shop), numbers(query.ids)),
  }));
  mount(router, ENDPOINTS.somePeople, async ({ params, query }) => {
    const ids = numbers(query.ids);
    const shop = shops.known(params.shop);
    const picks = query.picks === 'all' ? await rules.ofMany(shop, ids) : {};
    return shops.somePeople(shop, ids, picks);
  });
  mount(router, ENDPOINTS.erasePerson, ({ params, body }) => shops.erase(params.shop, body.email));
  mount(router, ENDPOINTS.personRank, async ({ params, query }) => {
    const asked = { shop: shops.known(params.shop), email: query.email.toLowerCase() };
    return { standing: await jobs.run('standing', asked) };
  });
  mount(router, ENDPOINTS.getPerson, ({ params, query }) =>
    shops.person(params.shop, query.email, (shop, ids) => rules.ofMany(shop, ids)),
  );
  return router;
}
