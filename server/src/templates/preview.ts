import { build } from '@carafe/core/build';
import { catalogNeeds, dataRead } from '@carafe/core/check';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { prepare, type Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import type { Having } from '@carafe/contract';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import { everyone } from '../people/listing';
import type { PeopleRepository } from '../people/repository';
import { productsOf, sharedDataOf, type SharedParts } from '../shops/sharedData';

/** Whom a template is shown for at first: somebody who has what it reads. */
function havingFor(template: Template): Having {
  const reads = dataRead(templateSites(template));
  if (reads.includes('cart')) return 'cart';
  return reads.includes('order') ? 'order' : 'all';
}

/** The mail as its first recipient would get it; null in a shop without people. */
export async function previewMail(
  parts: SharedParts & LibraryParts & { people: Pick<PeopleRepository, 'list' | 'data'> },
  given: Template,
  asOf: Date,
): Promise<Mail | null> {
  const { people } = parts;
  const template = expandedOf(parts, given);
  const shared = sharedDataOf(parts, template.shop, asOf, catalogNeeds(templateSites(template)));
  const [first] = people.list(template.shop, everyone(havingFor(template)), 1, 0).recipients;
  const [person] = first ? people.data(template.shop, [first.id]) : [];
  if (!shared || !person) return null;
  const { program } = await build(template);
  const products = productsOf(parts, template.shop, [person]);
  const record = assembleRecord(person.data, shared, productIndex(shared, products));
  return prepare(program)(record, { asOf }).mail;
}
