import { build } from '@carafe/core/build';
import { ImpactCounter, type Impact } from '@carafe/core/variant';
import type { Template } from '@carafe/core/template';
import type { Job } from '../jobs/jobs';
import { expandedOf } from '../library/shopLibrary';
import { recordsOf, type SurveyParts, type SurveyPiece, type SurveyTask } from './surveySome';

/** Two versions of a template; its audience is that of the second. */
export interface ImpactTask extends SurveyTask {
  before: Template;
}
export interface ImpactJobs {
  impact: Job<ImpactTask, (Omit<SurveyPiece, 'survey'> & { impact: Impact }) | null>;
}

/** Fills two versions of a template for some people, and tells whose mails differ; null where the shop is gone. */
export async function impactSome(parts: SurveyParts, task: ImpactTask) {
  const { shop } = task.template;
  if (!parts.shops.find(shop)) return null;
  const after = expandedOf(parts, task.template);
  const before = expandedOf(parts, task.before);
  const counter = new ImpactCounter((await build(before)).program, (await build(after)).program);
  const asOf = new Date(task.now);
  let next: number | null = null;
  let looked = 0;
  // Both read what either needs: one record serves them.
  const both = { ...after, sections: [...after.sections, ...before.sections] };
  for (const one of recordsOf(parts, { ...task, template: both })) {
    if ('record' in one) counter.look(one.id, one.record, one.record, asOf);
    else ({ last: next, looked } = one);
  }
  return { impact: counter.result(), looked, people: parts.people.count(shop), next };
}
