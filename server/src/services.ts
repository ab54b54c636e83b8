import type { SourceTarget } from '@carafe/contract';
import type { Logger } from 'pino';
import type { Services } from './app';
import type { Store } from './db';
import { WriteGate } from './gate';
import { Imports } from './imports/service';
import type { Jobs } from './jobs/work';
import { News } from './news';
import { refreshShop } from './people';
import { SourceRows } from './rowsofsource';
import { ShopShapes } from './shape';

interface Given {
  store: Store;
  jobs: Jobs;
  /** Where files stay while they are looked at. */
  files: string;
  now: () => Date;
  newId: () => string;
  log: Logger;
  self: () => string;
  token?: string | undefined;
}

const ABOUT_PEOPLE = new Set<SourceTarget>(['people', 'carts', 'orders', 'events']);

/** Puts together what the routes work with. */
export function makeServices(given: Given): Services {
  const { store, jobs, files, now, newId, log, self, token } = given;
  const news = new News();
  const base = { store, jobs, gate: new WriteGate(), news, now, newId, log, self, token };
  const services = {
    ...base,
    rows: new SourceRows(store, jobs, now),
    shapes: new ShopShapes(jobs, now, news),
    refreshFor(target: SourceTarget, shop: string | null): void {
      if (!ABOUT_PEOPLE.has(target)) return;
      for (const { id } of store.shops.list())
        if (shop === null || id === shop) {
          refreshShop(store, id);
          news.tell({ type: 'people', shop: id, ids: [] });
        }
    },
  } as Services;
  services.imports = new Imports(services, files);
  store.imports.interrupted();
  return services;
}
