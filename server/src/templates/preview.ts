import { dataRead, havingFor } from '@carafe/core/check';
import type { Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { everyone } from '../people/listing';
import type { PeopleRepository } from '../people/repository';
import { fillFor, type FillParts } from '../render/fillFor';

/** The mail as a person would get it, else its first recipient; null where there is none. */
export async function previewMail(
  parts: FillParts & { people: Pick<PeopleRepository, 'list'> },
  template: Template,
  asOf: Date,
  person?: number,
): Promise<Mail | null> {
  const whom = person ?? firstOf(parts, template);
  if (whom === undefined) return null;
  const filled = await fillFor(parts, { template, person: whom, asOf: asOf.toISOString() });
  return filled?.mail ?? null;
}

function firstOf(
  { people }: { people: Pick<PeopleRepository, 'list'> },
  template: Template,
): number | undefined {
  const having = havingFor(dataRead(templateSites(template)));
  return people.list(template.shop, everyone(having), 1, 0).recipients[0]?.id;
}
