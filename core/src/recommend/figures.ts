import type { Product } from './define';
import type { Pick } from './pick';
import type { Rule } from './rule';

/** What a rule comes to over many people; figures of some and of others add up. */
export interface Figures {
  people: number;
  picks: number;
  /** How many picks each step of the rule gave. */
  steps: number[];
  /** People with fewer picks than the rule asks for, and with none. */
  fewer: number;
  none: number;
  /** People all of whose picks the last of several steps gave. */
  last_only: number;
  /** The first of these people, by address: of those with fewer, with none, with the last step only, and of each step. */
  who: { fewer: string[]; none: string[]; last_only: string[]; steps: string[][] };
  /** To how many people each product is shown, by SKU. */
  shown: Record<string, number>;
}

export const noFigures = ({ steps }: Only<Rule, 'steps'>): Figures => ({
  ...{ people: 0, picks: 0, fewer: 0, none: 0, last_only: 0 },
  steps: steps.map(() => 0),
  who: { fewer: [], none: [], last_only: [], steps: steps.map(() => []) },
  shown: {},
});
type Only<T, K extends keyof T> = { [P in K]: T[P] };

/** So many people of each kind are named. */
const NAMED = 8;

function name(list: string[] | undefined, person: string): void {
  if (list && list.length < NAMED) list.push(person);
}

/** Adds what one person gets, by their address. */
export function addPicks(
  figures: Figures,
  rule: Rule,
  picks: readonly Pick[],
  person: string,
): void {
  const { who } = figures;
  figures.people++;
  figures.picks += picks.length;
  if (picks.length < rule.number) {
    figures.fewer++;
    name(who.fewer, person);
  }
  if (picks.length === 0) {
    figures.none++;
    name(who.none, person);
  }
  const last = rule.steps.length - 1;
  if (last > 0 && picks.length > 0 && picks.every(({ step }) => step === last)) {
    figures.last_only++;
    name(who.last_only, person);
  }
  for (const step of new Set(picks.map((one) => one.step))) name(who.steps[step], person);
  for (const { step, product } of picks) {
    figures.steps[step] = (figures.steps[step] ?? 0) + 1;
    figures.shown[product.sku] = (figures.shown[product.sku] ?? 0) + 1;
  }
}

/** The figures of some people and of others together. */
export function together(one: Figures, other: Figures): Figures {
  const shown = { ...one.shown };
  for (const [sku, n] of Object.entries(other.shown)) shown[sku] = (shown[sku] ?? 0) + n;
  const both = (list: readonly string[], more: readonly string[] = []) =>
    [...list, ...more].slice(0, NAMED);
  return {
    people: one.people + other.people,
    picks: one.picks + other.picks,
    fewer: one.fewer + other.fewer,
    none: one.none + other.none,
    last_only: one.last_only + other.last_only,
    steps: one.steps.map((n, i) => n + (other.steps[i] ?? 0)),
    who: {
      fewer: both(one.who.fewer, other.who.fewer),
      none: both(one.who.none, other.who.none),
      last_only: both(one.who.last_only, other.who.last_only),
      steps: one.who.steps.map((list, i) => both(list, other.who.steps[i])),
    },
    shown,
  };
}

/** How unevenly the products of a pool are shown. */
export interface Evenness {
  /** How many are shown to anybody. */
  ever: number;
  /**
   * Lorenz's curve (1905): the share of the picks that the least shown products have together, each point after
   * one product more, from 0,0 to 1,1.
   */
  curve: readonly (readonly [products: number, picks: number])[];
  /** Gini's coefficient: 0 where all are shown alike, near 1 where one has all. */
  gini: number;
}

/** Of how often each product of a pool is shown, those never shown among them. */
export function evenness(counts: readonly number[]): Evenness {
  const sorted = [...counts].sort((a, b) => a - b);
  const all = sorted.reduce((sum, n) => sum + n, 0);
  const curve: [number, number][] = [[0, 0]];
  let soFar = 0;
  let weighed = 0;
  sorted.forEach((n, i) => {
    soFar += n;
    weighed += (i + 1) * n;
    curve.push([(i + 1) / sorted.length, all === 0 ? 0 : soFar / all]);
  });
  const count = sorted.length;
  const gini = all === 0 || count === 0 ? 0 : (2 * weighed) / (count * all) - (count + 1) / count;
  return { ever: sorted.filter((n) => n > 0).length, curve, gini: Math.max(0, gini) };
}

/** How many products of each category there are, how many of them are shown, and how often. */
export interface CategoryShare {
  category: string;
  products: number;
  ever: number;
  picks: number;
}

/** What of each category is shown, the most often first. */
export function byCategory(
  products: readonly Product[],
  categoryOf: (product: Product) => string,
  shown: Figures['shown'],
): CategoryShare[] {
  const all = new Map<string, CategoryShare>();
  for (const product of products) {
    const category = categoryOf(product);
    const known = all.get(category) ?? { category, products: 0, ever: 0, picks: 0 };
    const n = shown[product.sku] ?? 0;
    all.set(category, {
      category,
      products: known.products + 1,
      ever: known.ever + (n > 0 ? 1 : 0),
      picks: known.picks + n,
    });
  }
  return [...all.values()].sort((a, b) => b.picks - a.picks);
}
