import { dataRead, havingFor } from '@carafe/core/check';
import type { Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { everyone } from '../people/listing';
import type { PeopleRepository } from '../people/repository';
import { fillFor, type FillParts } from '../render/fillFor';

/** The mail as its first recipient would get it; null in a shop without people. */
export async function previewMail(
  parts: FillParts & { people: Pick<PeopleRepository, 'list'> },
  template: Template,
  asOf: Date,
): Promise<Mail | null> {
  const having = havingFor(dataRead(templateSites(template)));
  const [first] = parts.people.list(template.shop, everyone(having), 1, 0).recipients;
  if (!first) return null;
  const filled = await fillFor(parts, { template, person: first.id, asOf: asOf.toISOString() });
  return filled?.mail ?? null;
}
