import type { Having } from '@carafe/contract';
import { dataRead } from '@carafe/core/check';
import type { Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { everyone } from '../people/listing';
import type { PeopleRepository } from '../people/repository';
import { fillFor, type FillParts } from '../render/fillFor';

/** Whom a template is for: who has what it reads. */
function havingFor(template: Template): Having {
  const reads = dataRead(templateSites(template));
  if (reads.includes('cart')) return 'cart';
  return reads.includes('order') ? 'order' : 'all';
}

/** The mail as its first recipient would get it; null in a shop without people. */
export async function previewMail(
  parts: FillParts & { people: Pick<PeopleRepository, 'list'> },
  template: Template,
  asOf: Date,
): Promise<Mail | null> {
  const [first] = parts.people.list(template.shop, everyone(havingFor(template)), 1, 0).recipients;
  if (!first) return null;
  const filled = await fillFor(parts, { template, person: first.id, asOf: asOf.toISOString() });
  return filled?.mail ?? null;
}
