import { build } from '@carafe/core/build';
import { catalogsRead, dataRead } from '@carafe/core/check';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { prepare, type Mail } from '@carafe/core/render';
import type { Template } from '@carafe/core/template';
import type { Having } from '@carafe/contract';
import type { Store } from './db';
import { productsOf, worldOf } from './world';

/** Whom a template is shown for at first: somebody who has what it reads. */
export function havingFor(template: Template): Having {
  const reads = dataRead(template);
  if (reads.includes('cart')) return 'cart';
  return reads.includes('order') ? 'order' : 'all';
}

/** The mail as its first recipient would get it; null in a shop without people. */
export async function previewMail(
  store: Store,
  template: Template,
  asOf: Date,
): Promise<Mail | null> {
  const world = worldOf(store, template.shop, asOf, catalogsRead(template));
  const [first] = store.people.list(template.shop, havingFor(template), '', 1, 0).recipients;
  const [person] = first ? store.people.data(template.shop, [first.id]) : [];
  if (!world || !person) return null;
  const { program } = await build(template);
  const products = productsOf(store, template.shop, [person]);
  const record = assembleRecord(person.data, world, productIndex(world, products));
  return prepare(program)(record, { asOf }).mail;
}
