import { build } from '@carafe/core/build';
import { catalogNeeds, dataRead } from '@carafe/core/check';
import { assembleRecord, productIndex, type PersonData } from '@carafe/core/record';
import { prepare, type Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import type { Having } from '@carafe/contract';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import { everyone } from '../people/listing';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany } from '../recommend/picks';
import { productsOf, sharedDataOf, type SharedParts } from '../shops/sharedData';

/** Whom a template is shown for at first: somebody who has what it reads. */
function havingFor(template: Template): Having {
  const reads = dataRead(templateSites(template));
  if (reads.includes('cart')) return 'cart';
  return reads.includes('order') ? 'order' : 'all';
}

/** What the shop's rules pick, where a template shows it. */
function picksFor(
  parts: Parameters<typeof picksOfMany>[0],
  template: Template,
  id: number,
  asOf: Date,
): Pick<PersonData, 'picks'> {
  if (!dataRead(templateSites(template)).includes('picks')) return {};
  const now = asOf.toISOString();
  const asked = { shop: template.shop, ids: [id], now, turn: null, changes: [] };
  const picks = picksOfMany(parts, asked)[id];
  return picks ? { picks } : {};
}

/** The mail as its first recipient would get it; null in a shop without people. */
export async function previewMail(
  parts: SharedParts &
    LibraryParts &
    Parameters<typeof picksOfMany>[0] & { people: Pick<PeopleRepository, 'list' | 'data'> },
  given: Template,
  asOf: Date,
): Promise<Mail | null> {
  const { people } = parts;
  const template = expandedOf(parts, given);
  const shared = sharedDataOf(parts, template.shop, asOf, catalogNeeds(templateSites(template)));
  const [first] = people.list(template.shop, everyone(havingFor(template)), 1, 0).recipients;
  const [found] = first ? people.data(template.shop, [first.id]) : [];
  if (!shared || !found) return null;
  const person = { data: { ...found.data, ...picksFor(parts, template, found.id, asOf) } };
  const { program } = await build(template);
  const products = productsOf(parts, template.shop, [person]);
  const record = assembleRecord(person.data, shared, productIndex(shared, products));
  return prepare(program)(record, { asOf }).mail;
}
