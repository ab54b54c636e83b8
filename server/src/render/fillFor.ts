import { build } from '@carafe/core/build';
import { catalogNeeds, dataRead, sayCut } from '@carafe/core/check';
import { assembleRecord, productIndex } from '@carafe/core/record';
import { prepare, type Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany } from '../recommend/picks';
import type { ReadyTask } from '../recommend/ready';
import { productsOf, sharedDataOf, type SharedParts } from '../shops/sharedData';

/** A template filled for one person of its shop. */
export interface FillTask {
  template: Template;
  person: number;
  /** ISO 8601. */
  asOf: string;
  /** What picks count until; whatever is known already, if left out. */
  picks?: ReadyTask;
  /** With the bounds of nodes, as a canvas has them. */
  bounds?: boolean;
}
export interface FilledMail {
  mail: Mail;
  fromEmail: string;
  /** The template says that this person gets none. */
  held: boolean;
  /** That it is cut off, and why; null where it is whole. */
  cut: string | null;
}

export type FillParts = SharedParts &
  LibraryParts &
  Parameters<typeof picksOfMany>[0] & { people: Pick<PeopleRepository, 'data'> };

/** Fills a template for one person of its shop, as it would be posted. */
export async function fillFor(
  parts: FillParts,
  { template: given, person: id, asOf: at, picks: ready, bounds = false }: FillTask,
): Promise<FilledMail | null> {
  const asOf = new Date(at);
  const template = expandedOf(parts, given);
  const sites = templateSites(template);
  const shared = sharedDataOf(parts, template.shop, asOf, catalogNeeds(sites));
  const [found] = parts.people.data(template.shop, [id]);
  if (!shared || !found) return null;
  const asked = {
    ...(ready ?? { shop: template.shop, now: at, turn: null, changes: [] }),
    ids: [id],
  };
  const picks = dataRead(sites).includes('picks') ? picksOfMany(parts, asked)[id] : undefined;
  const person = {
    data: { ...found.data, ...(picks && { picks: { ...picks, ...found.data.picks } }) },
  };
  const { program } = await build(template);
  const products = productsOf(parts, template.shop, [person]);
  const record = assembleRecord(person.data, shared, productIndex(shared, products));
  const { mail, held = false, cut } = prepare(program, { canvas: bounds })(record, { asOf });
  const said = cut ? sayCut(template, cut) : null;
  return { mail, fromEmail: program.fromEmail, held, cut: said };
}
