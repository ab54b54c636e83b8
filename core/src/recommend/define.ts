import type { z } from 'zod';
import type { Fields } from '../formula';
import type { History } from './history';
import type { Pairs } from './pairs';

/** A product as steps see it: its own record, and its number in the history where anybody bought it. */
export interface Product {
  sku: string;
  record: Fields;
  /** Its place in the catalog. */
  place: number;
  number: number | undefined;
}

/** What all picks of a shop are made from. */
export interface Shop {
  history: History;
  pairs: Pairs;
  products: readonly Product[];
  bySku: ReadonlyMap<string, Product>;
}

/** For whom picks are made, and when. */
export interface Asked {
  /** Their address; anybody of whom nothing is known has none that the history knows. */
  person: string;
  /** What is in the cart. */
  cart: readonly string[];
  /** What was in the latest order. */
  latest: readonly string[];
  /** Milliseconds. */
  now: number;
}

/** A product that a step puts forward. */
export interface Candidate {
  product: Product;
  score: number;
  /** On what figure, for a designer: `sold 38 times in 90 days`. */
  figure: string;
  /** For the recipient: `Goes with your Long Tom pot`. */
  reason: string;
}

/** All that anybody knows of one kind of step. To add one, write a file and list it in `steps/index`. */
export interface StepKind<S extends z.ZodType = z.ZodType> {
  kind: string;
  name: string;
  description: string;
  schema: S;
  make(): z.infer<S>;
  /** What it puts forward, the best first. */
  candidates(step: z.infer<S>, shop: Shop, asked: Asked): Candidate[];
}

/** Keeps the types of a step. */
export function defineStep<S extends z.ZodType>(kind: StepKind<S>): StepKind<S> {
  return kind;
}

export const textOf = (record: Fields, name: string): string => {
  const value = (record as Record<string, unknown>)[name];
  return typeof value === 'string' ? value : '';
};
export const nameOf = ({ record, sku }: Product): string => textOf(record, 'name') || sku;

/** The best first; what is equal stands as in the catalog, so that the same question has the same answer. */
export function ranked(candidates: Candidate[]): Candidate[] {
  return candidates
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score || a.product.place - b.product.place);
}

/** Candidates of a list, each a score of its own. */
export function scored(
  products: readonly Product[],
  score: (product: Product) => number,
  words: (product: Product, score: number) => Pick<Candidate, 'figure' | 'reason'>,
): Candidate[] {
  return ranked(
    products.map((product) => {
      const own = score(product);
      return { product, score: own, ...words(product, own) };
    }),
  );
}
