import { fieldOf, toNumber, type Fields } from '../formula';
import { valueAt } from '../blocks/fields';
import { kindOf } from '../template/kinds';
import { Loop } from '../template/parts';
import type { Template, TemplateNode } from '../template/schema';
import { positions } from './ask';
import { ofPeople, type CheckContext, type Found } from './define';

/** A product that mails offer, and to how many people. */
export interface Offered {
  product: Fields;
  name: string;
  people: number;
  person: number;
}

/** The products that mails offer of which something is true, those that most people see first. */
export function offered(
  { survey, products }: CheckContext,
  is: (product: Fields) => boolean,
): Offered[] {
  return Object.entries(survey?.products ?? {})
    .flatMap(([sku, { people, person }]) => {
      const product = products.get(sku);
      return product && is(product)
        ? [{ product, name: String(fieldOf(product, 'name') ?? sku), people, person }]
        : [];
    })
    .sort((a, b) => b.people - a.people);
}

export const priceOf = (product: Fields, field = 'price'): number | undefined =>
  toNumber(fieldOf(product, field));

/** Some names, and how many more. */
export function named(all: readonly Offered[]): string {
  const names = all.slice(0, 3).map(({ name }) => `“${name}”`);
  return all.length > 3 ? `${names.join(', ')} and ${all.length - 3} more` : names.join(', ');
}

/** The list of a template that offers products: where findings of them stand. */
export function offeringNode({ sites }: CheckContext): { node: string; path: string } {
  const site = sites.find(
    ({ use, source }) => use === 'list' && /\b(?:catalog|picks)\b/.test(source),
  );
  return { node: site?.node ?? '', path: site?.path ?? '' };
}

/** The loops over products of a catalog or of a rule, with their nodes and where they stand, in reading order. */
export function offeringLoops(
  template: Template,
): { node: TemplateNode; path: string; loop: Loop }[] {
  return positions(template).flatMap(({ node }) => {
    const { list } = kindOf(node) as { list?: string };
    return ['loop', ...(list === undefined ? [] : [list])].flatMap((path) => {
      const read = Loop.safeParse(valueAt(node, path));
      const offers = read.success && /^(?:catalog|picks)\b/.test(read.data.list);
      return offers ? [{ node, path, loop: read.data }] : [];
    });
  });
}

/** The product that a fact of this kind is true of for most people, as a finding; none where it is of nobody. */
export function worstOffer(
  context: CheckContext,
  kind: 'twice' | 'ordered',
  says: string,
): Found[] {
  const { survey, products } = context;
  const all = Object.entries(survey?.facts ?? {})
    .filter(([name]) => name.startsWith(`${kind}:`))
    .sort((a, b) => b[1].people - a[1].people);
  const [worst] = all;
  if (!survey || !worst) return [];
  const [, { people, person, sample }] = worst;
  const product = products.get(sample);
  const name = product ? String(fieldOf(product, 'name') ?? sample) : sample;
  const more =
    all.length > 1 ? ` So ${all.length === 2 ? 'is one more' : `are ${all.length - 1} more`}.` : '';
  return [
    {
      ...{ severity: 'warning', ...offeringNode(context), people, person },
      message: `“${name}” is offered though ${says}, for ${ofPeople(people, survey.people)}.${more}`,
    },
  ];
}
