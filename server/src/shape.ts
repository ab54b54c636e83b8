import { assembleRecord, productIndex, type World } from '@carafe/core/record';
import { DATE, ShapeBuilder, inferShape, type Shape } from '@carafe/core/shape';
import type { Store } from './db';
import type { Jobs } from './jobs/work';
import { Latest } from './latest';
import type { News } from './news';
import { worldOf } from './world';

/** The shape of what a shop's recipients read. What all share is looked at once, not per person. */
export function shapeOfShop(store: Store, shop: string, now: Date): Shape {
  const world = worldOf(store, shop, now, null);
  if (!world) return { kind: 'any' };
  const none: World = { shop: world.shop, catalog: {}, feeds: {}, coupon: {} };
  const products = productIndex(world);
  const builder = new ShapeBuilder();
  let count = 0;
  for (const data of store.people.all(shop)) {
    const { catalog: _c, feeds: _f, coupon: _p, ...own } = assembleRecord(data, none, products);
    builder.add(own);
    count++;
  }
  const own = builder.shape();
  const shared = inferShape([world]);
  const always = { shape: DATE, filled: count, of: count, samples: [] };
  if (own.kind !== 'record' || shared.kind !== 'record') return shared;
  const sharedFields = Object.fromEntries(
    Object.entries(shared.fields).map(([name, field]) => [
      name,
      { ...field, filled: count, of: count },
    ]),
  );
  return { kind: 'record', fields: { ...own.fields, ...sharedFields, today: always, now: always } };
}

/** The shapes of shops, worked out beside the server and kept until something changes. */
export class ShopShapes {
  private readonly shapes = new Latest<Shape>();
  private changes = 0;

  constructor(
    private readonly jobs: Jobs,
    private readonly now: () => Date,
    news: News,
  ) {
    news.listen(({ news: { type } }) => {
      if (type === 'people' || type === 'world') this.changes++;
    });
  }

  of(shop: string): Promise<Shape> {
    const task = { shop, now: this.now().toISOString() };
    return this.shapes.get(`${shop} ${this.changes}`, () => this.jobs.run('shape', task));
  }
}
