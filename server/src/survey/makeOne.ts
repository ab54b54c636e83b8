import { build } from '@carafe/core/build';
import { catalogNeeds } from '@carafe/core/check';
import { fieldOf, type Fields } from '@carafe/core/formula';
import { assembleRecord, productIndex, reviveRecord, type PersonData } from '@carafe/core/record';
import { templateSites } from '@carafe/core/site';
import { NOBODY, solve, type Solved, type Target } from '@carafe/core/solve';
import type { Template } from '@carafe/core/template';
import type { Job } from '../jobs/jobs';
import { expandedOf } from '../library/shopLibrary';
import { sharedDataOf } from '../shops/sharedData';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SurveyParts } from './surveySome';

export interface MakeTask {
  template: Template;
  target: Target;
  /** ISO 8601. */
  now: string;
}
export interface MakeJobs {
  makeOne: Job<MakeTask, Solved | null>;
}

/** So many people are started from, and lines are made of so many products. */
const STARTS = 40;
const PRODUCTS = 60;

/** Makes up somebody who reaches a part of a template; null where the shop is gone. */
export async function makeOne(
  parts: SurveyParts & { entries: Pick<EntriesRepository, 'records'> },
  { template: given, target, now }: MakeTask,
): Promise<Solved | null> {
  const template = expandedOf(parts, given);
  const { shop } = template;
  const asOf = new Date(now);
  const shared = sharedDataOf(parts, shop, asOf, catalogNeeds(templateSites(template)));
  if (!shared) return null;
  const { program } = await build(template);
  const all = parts.sources
    .feeding('catalog', shop)
    .flatMap(({ id }) => [...parts.entries.records(id)].slice(0, 2_000))
    .map((record) => reviveRecord(JSON.parse(record)) as Fields);
  // Products as different as possible by category and stock come first.
  const seen = new Map<string, number>();
  const rank = (product: Fields) => {
    const key = `${String(fieldOf(product, 'category'))} ${String(fieldOf(product, 'in_stock'))}`;
    const count = seen.get(key) ?? 0;
    seen.set(key, count + 1);
    return count;
  };
  const products = all
    .map((product) => ({ product, at: rank(product) }))
    .sort((a, b) => a.at - b.at)
    .slice(0, PRODUCTS)
    .map(({ product }) => product);
  const index = productIndex(shared, all);
  const ids = parts.people.idsAfter(shop, 0, STARTS);
  const real = parts.people.data(shop, ids).map(({ data }): PersonData => {
    const { token: _token, ...own } = data;
    return { ...own, person: { ...own.person, ...NOBODY.person } };
  });
  return solve(
    {
      ...{ template, program, products, now: asOf },
      currency: String(fieldOf(shared.shop, 'currency') ?? 'EUR'),
      starts: [NOBODY, ...real],
      record: (data) => assembleRecord(data, shared, index),
    },
    target,
  );
}
