import { build } from '@carafe/core/build';
import { runChecks, type CheckFinding } from '@carafe/core/checks';
import type { Fields } from '@carafe/core/formula';
import type { Occasion } from '@carafe/core/occasion';
import { sendsOf } from '@carafe/core/occasion';
import { reviveRecord } from '@carafe/core/record';
import type { Shape } from '@carafe/core/shape';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { coverageOf, type Survey } from '@carafe/core/variant';
import type { Job } from '../jobs/jobs';
import { expandedOf } from '../library/shopLibrary';
import type { OccasionsRepository } from '../occasions/repository';
import type { PicturesRepository } from '../pictures/repository';
import { sharedDataOf } from '../shops/sharedData';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesRepository } from '../sources/repository';
import { statusOf } from '../sources/status';
import type { SurveyParts } from './surveySome';

export interface CheckTask {
  template: Template;
  /** The id that it is stored by, for what occasions say of it. */
  id: string | null;
  shape: Shape;
  /** What filling it for people came to; null where nobody did. */
  survey: Survey | null;
  /** ISO 8601. */
  now: string;
}
export interface CheckJobs {
  checkTemplate: Job<CheckTask, CheckFinding[]>;
}
export type CheckParts = SurveyParts & {
  entries: Pick<EntriesRepository, 'find'>;
  sources: Pick<SourcesRepository, 'list' | 'feeding'>;
  pictures: Pick<PicturesRepository, 'list'>;
  occasions: Pick<OccasionsRepository, 'list'>;
};

const STATUS: Partial<Record<ReturnType<typeof statusOf>, string>> = {
  failed: 'could not be fetched the last time',
  stale: 'is out of date',
  never: 'never supplied any data',
};

/** What formulas call what a source feeds. */
function rootOf(target: string, name: string): string {
  if (target === 'catalog') return `catalog.${name}`;
  if (target === 'feed') return `feeds.${name}`;
  if (target === 'coupons') return 'coupon';
  return target === 'people' ? 'person' : target === 'carts' ? 'cart' : 'order';
}

/** What a template is sent as, as far as occasions say: marketing where any of them says so. */
function sentAs(
  occasions: readonly { occasion: Occasion }[],
  id: string | null,
): 'marketing' | 'service' | null {
  const sends = occasions
    .flatMap(({ occasion }) => sendsOf(occasion))
    .filter(({ template, to }) => template === id && to === 'person');
  if (sends.some(({ mail }) => mail === 'marketing')) return 'marketing';
  return sends.length > 0 ? 'service' : null;
}

/** Everything that the checks say of a template. */
export async function checkTemplate(parts: CheckParts, task: CheckTask): Promise<CheckFinding[]> {
  const { id, survey, shape } = task;
  const { shop } = task.template;
  const template = expandedOf(parts, task.template);
  const now = new Date(task.now);
  const { findings: built } = await build(template);
  const shared = sharedDataOf(parts, shop, now, []);
  const catalogs = parts.sources.feeding('catalog', shop);
  const products = new Map<string, Fields>();
  for (const sku of Object.keys(survey?.products ?? {}))
    for (const source of catalogs) {
      const product = parts.entries.find(source.id, sku);
      if (product) products.set(sku, reviveRecord(product) as Fields);
    }
  const sources = parts.sources
    .list()
    .filter((one) => one.shop === null || one.shop === shop)
    .flatMap((one) => {
      const problem = STATUS[statusOf(one, null, now)];
      const { name, target, formula_name } = one;
      return problem ? [{ name, root: rootOf(target, formula_name), problem }] : [];
    });
  return runChecks({
    ...{ template, sites: templateSites(template), shape, built, survey, products, sources, now },
    coverage: survey && coverageOf(template, survey),
    hasProduct: (sku) =>
      catalogs.some(({ id: source }) => parts.entries.find(source, sku) !== null),
    coupons: shared?.coupon ?? null,
    zone: parts.shops.find(shop)?.timezone,
    sentAs: id === null ? null : sentAs(parts.occasions.list(shop), id),
    pictures: parts.pictures.list(),
  });
}
