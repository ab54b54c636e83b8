import { DEMO_SHOPS, makeCatalog, VARIANTS } from '@carafe/demo';
import { Router } from 'express';
import { Refusal } from '../http/errors';

/**
 * What the stand-in shop's page shows: the demo's products as the shop itself knows them. It does not
 * read Carafe's tables; all that it tells Carafe it posts as events.
 */
export function standInShopRoutes(now: () => Date): Router {
  const router = Router();
  router.get('/catalog/:shop.json', (request, response) => {
    const shop = DEMO_SHOPS.find(({ id }) => id === request.params.shop);
    if (!shop) throw new Refusal(404, `There is no stand-in shop “${request.params.shop}”.`);
    const products = makeCatalog(now(), shop.currency, new URL(shop.url).host);
    response.json({ shop, shops: DEMO_SHOPS, products, variants: VARIANTS });
  });
  return router;
}
