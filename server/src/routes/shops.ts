import { Having } from '@carafe/contract';
import { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../app';
import { Refusal } from '../errors';
import { shapeOfShop } from '../shape';

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

export function shopRoutes({ store }: Services): Router {
  const router = Router();
  const { shops, people } = store;
  const known = (id: string): string => {
    if (!shops.find(id)) throw new Refusal(404, `There is no shop “${id}”.`);
    return id;
  };
  router.get('/shops', (_request, response) => {
    response.json({ shops: shops.list() });
  });
  /** What every recipient of the shop shares. */
  router.get('/shops/:shop/world', (request, response) => {
    response.json(shops.worldJson(known(request.params.shop)));
  });
  /** The shape of the records of the shop's people, with fill rates. */
  router.get('/shops/:shop/shape', (request, response) => {
    response.json(shapeOfShop(store, known(request.params.shop)));
  });
  router.get('/shops/:shop/recipients', (request, response) => {
    const { q, having, limit, offset } = Listing.parse(request.query);
    response.json(people.list(known(request.params.shop), having, q, limit, offset));
  });
  router.get('/shops/:shop/people', (request, response) => {
    const { ids } = Wanted.parse(request.query);
    response.json({ people: people.data(known(request.params.shop), ids) });
  });
  return router;
}
