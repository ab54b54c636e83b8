import { fieldOf, toNumber, type Fields } from '../formula';
import type { CheckContext } from './define';

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
