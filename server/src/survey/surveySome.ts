import { catalogNeeds, dataRead, havingFor, rootsRead } from '@carafe/core/check';
import type { Fields } from '@carafe/core/formula';
import { byName } from '@carafe/core/library';
import type { WhomAsks } from '@carafe/core/occasion';
import { addProducts, assembleRecord, productIndex } from '@carafe/core/record';
import { contextFor } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { Surveyor, type Survey } from '@carafe/core/variant';
import type { Job } from '../jobs/jobs';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import type { SegmentsRepository } from '../occasions/segmentsRepository';
import type { PeopleRepository } from '../people/repository';
import { meantBy, type Meant } from '../people/whom';
import { picksOfMany } from '../recommend/picks';
import type { ReadyTask } from '../recommend/ready';
import { productsOf, sharedDataOf, type SharedParts } from '../shops/sharedData';
import { builtOf } from './built';

/** Whom a template is filled for: those who have the data that it reads, everybody, a segment, or whom an occasion means. */
export type AudienceChoice =
  | { of: 'reads' }
  | { of: 'all' }
  | { of: 'segment'; name: string }
  | { of: 'whom'; whom: WhomAsks };

export interface SurveyTask {
  template: Template;
  audience: AudienceChoice;
  /** The people that are looked at, by id. */
  ids: readonly number[];
  /** ISO 8601. */
  now: string;
  picks: ReadyTask;
  /** Whether each person’s mail is told by a number; with an instant (ISO 8601), also as it would be then. */
  digests?: boolean | string;
}
export interface SurveyJobs {
  survey: Job<SurveyTask, Survey | null>;
  /** The same for the few that are wanted at once. */
  surveyFew: Job<SurveyTask, Survey | null>;
  /** The same where nobody waits for it: it takes nothing from those who do. */
  surveyAside: Job<SurveyTask, Survey | null>;
}
export type SurveyParts = SharedParts &
  LibraryParts &
  Parameters<typeof picksOfMany>[0] & {
    people: Pick<PeopleRepository, 'bare' | 'data' | 'idsAfter'>;
    segments: Pick<SegmentsRepository, 'list'>;
  };

/** The condition that an audience asks; undefined where it asks none, null where it cannot be asked. */
function conditionOf(
  parts: SurveyParts,
  shop: string,
  audience: AudienceChoice,
): Meant | null | undefined {
  if (audience.of !== 'segment' && audience.of !== 'whom') return undefined;
  const named = byName(parts.library.list(shop, 'formula').map(({ document }) => document));
  if (audience.of === 'whom') return meantBy(audience.whom, named);
  const segment = parts.segments.list(shop).find(({ name }) => name === audience.name);
  if (!segment) return null;
  return meantBy({ asks: [{ formula: segment.formula, is: true }], addresses: null }, named);
}

/** So many people are read at once: what is soon forgotten costs the collector of garbage little. */
const AT_ONCE = 100;

/** The records of an audience, one after the other, as they are filled. */
export function* recordsOf(
  parts: SurveyParts,
  { template, audience, ids, now, picks: ready }: SurveyTask,
): Generator<{ id: number; record: Fields }> {
  const { shop } = template;
  const asOf = new Date(now);
  const sites = templateSites(template);
  const condition = conditionOf(parts, shop, audience);
  const catalogs = condition?.names.has('catalog') ? null : catalogNeeds(sites);
  const shared = sharedDataOf(parts, shop, asOf, catalogs);
  if (!shared || condition === null) return;
  const having = audience.of === 'reads' ? havingFor(dataRead(sites)) : 'all';
  const picks = dataRead(sites).includes('picks') || condition?.names.has('picks') === true;
  const products = productIndex(shared);
  // What nothing asks for is not put together; a segment and expectations may ask for anything.
  const isOwn = condition === undefined && (template.expectations ?? []).length === 0;
  const reads = isOwn ? rootsRead(sites) : undefined;
  for (let from = 0; from < ids.length; from += AT_ONCE) {
    const found = parts.people.bare(shop, ids.slice(from, from + AT_ONCE), having);
    const picked =
      picks && found.length > 0
        ? picksOfMany(parts, { ...ready, ids: found.map(({ id }) => id) })
        : {};
    const people = found.map(({ id, data }) => {
      const picks = picked[id];
      return { id, data: picks ? { ...data, picks } : data };
    });
    addProducts(products, productsOf(parts, shop, people, products));
    for (const { id, data } of people) {
      const record = assembleRecord(data, shared, products, { reads, usesUp: true });
      if (condition && !condition.holds(contextFor(record, { asOf }), data.person.email)) continue;
      yield { id, record };
    }
  }
}

/** A mail that asks for no date is the same at any time. */
function digestsAsked(template: Template, digests: SurveyTask['digests'] = false): boolean | Date {
  if (typeof digests !== 'string') return digests;
  const roots = rootsRead(templateSites(template));
  return roots.has('today') || roots.has('now') ? new Date(digests) : true;
}

/** Fills a template for some people of an audience, and counts what was decided; null where the shop is gone. */
export async function surveySome(parts: SurveyParts, task: SurveyTask): Promise<Survey | null> {
  if (!parts.shops.find(task.template.shop)) return null;
  const template = expandedOf(parts, task.template);
  const { program } = await builtOf(template, { keepsAddresses: true });
  const expectations = (template.expectations ?? []).map(({ formula }) => formula);
  const surveyor = new Surveyor(template, program, {
    expectations,
    digests: digestsAsked(template, task.digests),
  });
  const asOf = new Date(task.now);
  for (const { id, record } of recordsOf(parts, { ...task, template }))
    surveyor.look(id, record, asOf);
  return surveyor.survey();
}
