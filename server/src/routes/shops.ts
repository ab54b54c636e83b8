import { Having, Shop } from '@carafe/contract';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../app';
import { Refusal } from '../errors';
import { productsOf, worldOf, worldText } from '../world';

const Listing = z.object({
  q: z.string().max(200).default(''),
  having: Having.default('all'),
  limit: z.coerce.number().int().min(1).max(500).default(100),
  offset: z.coerce.number().int().min(0).default(0),
});
const Wanted = z.object({
  ids: z
    .string()
    .regex(/^\d+(?:,\d+){0,199}$/, 'ids are up to 200 numbers with commas between')
    .transform((ids) => ids.split(',').map(Number)),
});

const Catalogs = z.object({
  catalogs: z
    .string()
    .max(2000)
    .transform((names) => names.split(',').filter((name) => name !== ''))
    .nullable()
    .default(null),
});

export function shopRoutes({ store, shapes, now }: Services): Router {
  const router = Router();
  const { shops, people } = store;
  const known = (id: string): string => {
    if (!shops.find(id)) throw new Refusal(404, `There is no shop “${id}”.`);
    return id;
  };
  router.get('/shops', (_request, response) => {
    response.json({ shops: shops.list() });
  });
  /** What every recipient of the shop shares, with the catalogs that are named, else all. */
  router.get('/shops/:shop/world', (request, response) => {
    const { catalogs } = Catalogs.parse(request.query);
    response.type('json').send(worldText(store, known(request.params.shop), now(), catalogs));
  });
  /** The shape of the records of the shop's people, with fill rates. */
  router.get('/shops/:shop/shape', async (request, response) => {
    response.json(await shapes.of(known(request.params.shop)));
  });
  router.get('/shops/:shop/recipients', (request, response) => {
    const { q, having, limit, offset } = Listing.parse(request.query);
    response.json(people.list(known(request.params.shop), having, q, limit, offset));
  });
  router.get('/shops/:shop/people', (request, response) => {
    const { ids } = Wanted.parse(request.query);
    const shop = known(request.params.shop);
    const found = people.data(shop, ids);
    response.json({ people: found, products: productsOf(store, shop, found) });
  });
  /** Recipients by id, for those that just changed. */
  router.get('/shops/:shop/recipients/some', (request, response) => {
    const { ids } = Wanted.parse(request.query);
    response.json({ recipients: people.some(known(request.params.shop), ids) });
  });
  /** Everything that a template would see of one person, with the events that made it. */
  router.get('/shops/:shop/person', (request, response) => {
    const shop = known(request.params.shop);
    const { email } = z.object({ email: z.string().max(320) }).parse(request.query);
    const id = people.idOf(shop, email.toLowerCase());
    const [found] = id === null ? [] : people.data(shop, [id]);
    const world = worldOf(store, shop, now(), []);
    if (!found || !world) throw new Refusal(404, `Nobody here has the address “${email}”.`);
    const {
      catalog: _c,
      feeds: _f,
      coupon: _p,
      shop: _s,
      ...record
    } = assembleRecord(found.data, world, productIndex(world, productsOf(store, shop, [found])));
    response.json({ id: found.id, record, events: store.events.of(shop, email.toLowerCase()) });
  });
  router.post('/shops', (request, response) => {
    const shop = Shop.parse(request.body);
    if (shops.find(shop.id)) throw new Refusal(409, `There is a shop “${shop.id}” already.`);
    shops.insert(shop);
    response.status(201).json(shop);
  });
  return router;
}
