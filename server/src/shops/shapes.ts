import { ownRecord, productIndex, withStandard, type SharedData } from '@carafe/core/record';
import { withNamed } from '@carafe/core/library';
import type { RulesRepository } from '../recommend/repository';
import { DATE, inferShape, ShapeBuilder, TEXT, type Shape } from '@carafe/core/shape';
import type { Job } from '../jobs/jobs';
import type { PeopleRepository } from '../people/repository';
import { sharedDataOf, type SharedParts } from './sharedData';

export interface ShapeJobs {
  shape: Job<{ shop: string; now: string }, Shape>;
}

/** The picks of rules: lists of products of the catalogs, each with its reason. */
function picksShape(
  catalogs: Shape | undefined,
  rules: readonly { name: string; label: string }[],
): Shape | null {
  if (rules.length === 0 || catalogs?.kind !== 'record') return null;
  const [first] = Object.values(catalogs.fields).map(({ shape }) => shape);
  const product = first?.kind === 'list' && first.of.kind === 'record' ? first.of.fields : {};
  const reason = { shape: TEXT, filled: 1, of: 1, samples: ['Goes with your pot'] };
  const picked: Shape = { kind: 'list', of: { kind: 'record', fields: { ...product, reason } } };
  const field = { shape: picked, filled: 1, of: 1, samples: [] };
  return {
    kind: 'record',
    fields: Object.fromEntries(rules.map(({ name, label }) => [name, { ...field, label }])),
  };
}

/** The shape of what a shop's recipients read. What all share is looked at once, not per person. */
export function shapeOfShop(
  parts: SharedParts & {
    people: Pick<PeopleRepository, 'all'>;
    rules: Pick<RulesRepository, 'list'>;
  },
  shop: string,
  now: Date,
): Shape {
  const shared = sharedDataOf(parts, shop, now, null);
  if (!shared) return { kind: 'any' };
  const none: SharedData = { shop: shared.shop, catalog: {}, feeds: {}, coupon: {} };
  const products = productIndex(shared);
  const known = new Set<object>(products.values());
  const builder = new ShapeBuilder({ isShared: (record) => known.has(record) });
  let count = 0;
  for (const data of parts.people.all(shop)) {
    builder.add(ownRecord(data, none, products, { usesUp: true }));
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
  const picks = picksShape(
    commonFields['catalog']?.shape,
    parts.rules.list(shop).map(({ published }) => published),
  );
  const fields = {
    ...{ ...ownFields, ...commonFields, today: always, now: always },
    ...(picks && { picks: { ...always, shape: picks } }),
  };
  const shape = withStandard({ kind: 'record', fields }, count);
  const formulas = parts.library.list(shop, 'formula').map(({ document }) => document);
  return withNamed(shape, formulas);
}
