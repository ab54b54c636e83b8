import { ImpactCounter, type Impact } from '@carafe/core/variant';
import type { Template } from '@carafe/core/template';
import type { Job } from '../jobs/jobs';
import { expandedOf } from '../library/shopLibrary';
import { builtOf } from './built';
import { recordsOf, type SurveyParts, type SurveyTask } from './surveySome';

/** Two versions of a template; its audience is that of the second. */
export interface ImpactTask extends SurveyTask {
  before: Template;
}
export interface ImpactJobs {
  impact: Job<ImpactTask, Impact | null>;
}

/** Fills two versions of a template for some people, and tells whose mails differ; null where the shop is gone. */
export async function impactSome(parts: SurveyParts, task: ImpactTask): Promise<Impact | null> {
  const { shop } = task.template;
  if (!parts.shops.find(shop)) return null;
  const after = expandedOf(parts, task.template);
  const before = expandedOf(parts, task.before);
  const counter = new ImpactCounter(
    (await builtOf(before)).program,
    (await builtOf(after)).program,
  );
  const asOf = new Date(task.now);
  // Both read what either needs: one record serves them.
  const both = { ...after, sections: [...after.sections, ...before.sections] };
  for (const { id, record } of recordsOf(parts, { ...task, template: both }))
    counter.look(id, record, record, asOf);
  return counter.result();
}
