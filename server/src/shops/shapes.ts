import { assembleRecord, productIndex, withStandard, type SharedData } from '@carafe/core/record';
import { withNamed } from '@carafe/core/library';
import { DATE, inferShape, ShapeBuilder, type Shape } from '@carafe/core/shape';
import { LruCache } from '../database/lruCache';
import type { Job, Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { PeopleRepository } from '../people/repository';
import { sharedDataOf, type SharedParts } from './sharedData';

export interface ShapeJobs {
  shape: Job<{ shop: string; now: string }, Shape>;
}

/** The shape of what a shop's recipients read. What all share is looked at once, not per person. */
export function shapeOfShop(
  parts: SharedParts & { people: Pick<PeopleRepository, 'all'> },
  shop: string,
  now: Date,
): Shape {
  const shared = sharedDataOf(parts, shop, now, null);
  if (!shared) return { kind: 'any' };
  const none: SharedData = { shop: shared.shop, catalog: {}, feeds: {}, coupon: {} };
  const products = productIndex(shared);
  const builder = new ShapeBuilder();
  let count = 0;
  for (const data of parts.people.all(shop)) {
    const { catalog: _c, feeds: _f, coupon: _p, ...own } = assembleRecord(data, none, products);
    builder.add(own);
    count++;
  }
  const own = builder.shape();
  const common = inferShape([shared]);
  const always = { shape: DATE, filled: count, of: count, samples: [] };
  if (common.kind !== 'record') return common;
  const ownFields = own.kind === 'record' ? own.fields : {};
  const commonFields = Object.fromEntries(
    Object.entries(common.fields).map(([name, field]) => [
      name,
      { ...field, filled: count, of: count },
    ]),
  );
  const fields = { ...ownFields, ...commonFields, today: always, now: always };
  const shape = withStandard({ kind: 'record', fields }, count);
  const formulas = parts.library.list(shop, 'formula').map(({ document }) => document);
  return withNamed(shape, formulas);
}

/** The shapes of shops, worked out beside the server and kept until something changes. */
export class ShopShapes {
  private readonly shapes = new LruCache<Shape>();
  private changes = 0;

  constructor(
    private readonly jobs: Jobs<ShapeJobs>,
    private readonly now: () => Date,
    updates: LiveUpdates,
  ) {
    updates.listen(({ update: { type } }) => {
      if (type === 'people' || type === 'shared') this.changes++;
    });
  }

  of(shop: string): Promise<Shape> {
    const task = { shop, now: this.now().toISOString() };
    return this.shapes.get(`${shop} ${this.changes}`, () => this.jobs.run('shape', task));
  }
}
