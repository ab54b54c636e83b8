import type { Fields } from '../formula';
import type { Activity, Bought } from './history';
import { Rule, type Asked, type Picked } from '.';
import { DAY_MS } from './lines';

/** What tests of recommendation are written with. */
export const NOW = Date.UTC(2026, 10, 24, 9);
export const ago = (days: number): number => NOW - days * DAY_MS;

export interface TestLine extends Bought {
  person: string;
}
export const bought = (
  person: string,
  sku: string,
  days = 1,
  more: Partial<Bought> = {},
): TestLine => ({ ...{ person, sku, at: ago(days), quantity: 1, price: 10 }, ...more });

/** Lines by the people who bought. */
export function people(
  lines: readonly TestLine[],
  more: Partial<Record<'viewed' | 'carted', readonly TestLine[]>> = {},
): Activity[] {
  const names = new Set(
    [...lines, ...(more.viewed ?? []), ...(more.carted ?? [])].map(({ person }) => person),
  );
  const of = (person: string, some: readonly TestLine[] = []) =>
    some.filter((line) => line.person === person);
  return [...names].map((person) => ({
    ...{ person, bought: of(person, lines) },
    ...{ viewed: of(person, more.viewed), carted: of(person, more.carted) },
  }));
}

export const product = (sku: string, more: object = {}): Fields => ({
  ...{ sku, name: `The ${sku}`, category: 'Seeds', price: 10, in_stock: true },
  ...more,
});
export const nobody: Asked = { person: 'nobody', cart: [], latest: [], now: NOW };
export const rule = (...steps: object[]): Rule =>
  Rule.parse({
    ...{ name: 'r', label: 'R', number: 4 },
    steps: steps.map((step) => ({ take: 4, step })),
    exclude: { out_of_stock: true, in_cart: true },
  });
export const skus = ({ picks }: Picked): string[] => picks.map((one) => one.product.sku);
