import type { z } from 'zod';
import type { Fields } from '../formula';
import type { History } from './history';
import type { TasteIndex } from './taste';

/** A product as steps see it: its own record, and its number in the history where anybody did something with it. */
export interface Product {
  sku: string;
  record: Fields;
  /** Its place in the catalog. */
  place: number;
  number: number | undefined;
}

/** What all picks of a shop are made from. It never changes. */
export interface Shop {
  history: History;
  /** What each person did themselves: the same history, unless it is known until later of some. The same numbers stand for people and products. */
  own: History;
  /** What formulas read of the shop itself: its time zone, its language. */
  record: Fields;
  products: readonly Product[];
  bySku: ReadonlyMap<string, Product>;
  /** By the number in the history. */
  byNumber: readonly (Product | undefined)[];
  /** Null until it was reckoned. */
  taste: TasteIndex | null;
  /** When a product that was out of stock came back, in milliseconds. */
  restocked: ReadonlyMap<string, number>;
  /** Who is in a segment, by its name: their addresses. */
  segments: ReadonlyMap<string, ReadonlySet<string>>;
  /** What was reckoned from all this, once, by name. */
  kept: Map<string, unknown>;
}

/** For whom picks are made, and when. */
export interface Asked {
  /** Their address; anybody of whom nothing is known has none that the history knows. */
  person: string;
  country?: string | undefined;
  /** What is in the cart. */
  cart: readonly string[];
  /** What was in the latest order. */
  latest: readonly string[];
  /** What stood in their mails, the latest mail first. */
  shown?: readonly (readonly string[])[];
  /** What formulas of exclusion read beside the product: person, cart, order. */
  record?: Fields;
  /** Milliseconds. */
  now: number;
}

/** A product that a step puts forward. */
export interface Candidate {
  product: Product;
  score: number;
  /** On what figure, for a designer: `sold 38 times in 90 days`; and for the recipient: `Goes with your Long Tom pot`. */
  words: () => { figure: string; reason: string };
}

/** All that anybody knows of one kind of step. To add one, write a file and list it in `steps/index`. */
export interface StepKind<S extends z.ZodType = z.ZodType> {
  kind: string;
  name: string;
  description: string;
  schema: S;
  make(): z.infer<S>;
  /** What a form asks of it. */
  fields: readonly StepField[];
  /** What it puts forward, the best first; only as far as it is asked for. */
  candidates(step: z.infer<S>, shop: Shop, asked: Asked): Iterable<Candidate>;
}

/** A question of a step's form, told as part of a sentence: `before` it and `after` it. */
export type StepField =
  | {
      control: 'choice';
      path: string;
      before: string;
      options: readonly { value: string; label: string }[];
    }
  | {
      control: 'number';
      path: string;
      before: string;
      after: string;
      most: number;
      /** May be left out. */
      optional?: boolean;
      /** What an empty field says; “any” where it is left out. */
      none?: string;
    }
  | { control: 'products'; path: string; before: string; when?: { path: string; is: string } }
  | { control: 'segment'; path: string; before: string; when: { path: string; is: string } }
  | { control: 'weights'; path: string; before: string };

/** Keeps the types of a step. */
export function defineStep<S extends z.ZodType>(kind: StepKind<S>): StepKind<S> {
  return kind;
}

export const valueOf = (record: Fields, name: string): unknown =>
  (record as Record<string, unknown>)[name];
export const textOf = (record: Fields, name: string): string => {
  const value = valueOf(record, name);
  return typeof value === 'string' ? value : '';
};
export const numberOf = (record: Fields, name: string): number => {
  const value = valueOf(record, name);
  return typeof value === 'number' && Number.isFinite(value) ? value : 0;
};
export const listOf = (record: Fields, name: string): readonly string[] => {
  const value = valueOf(record, name);
  return Array.isArray(value) ? value.filter((one) => typeof one === 'string') : [];
};
export const nameOf = ({ record, sku }: Product): string => textOf(record, 'name') || sku;

/** Something reckoned from the whole shop: made when it is first asked for, and kept as long as the shop. */
export function kept<T>(shop: Shop, name: string, make: () => T): T {
  if (!shop.kept.has(name)) shop.kept.set(name, make());
  return shop.kept.get(name) as T;
}

const better = (a: Scored, b: Scored): number =>
  b.score - a.score || a.product.place - b.product.place;
/** A product with a score. */
export interface Scored {
  product: Product;
  score: number;
}

/** The best first; what is equal stands as in the catalog, so that the same question has the same answer. */
export function ranked<T extends Scored>(all: readonly T[]): T[] {
  return all.filter(({ score }) => score > 0).sort(better);
}

/** Puts what is at a place of a heap down to where it belongs. */
function sink<T extends Scored>(heap: T[], at: number): void {
  const one = heap[at];
  if (!one) return;
  for (;;) {
    const left = 2 * at + 1;
    const [a, b] = [heap[left], heap[left + 1]];
    if (!a) break;
    const next = b && better(b, a) < 0 ? left + 1 : left;
    const child = heap[next];
    if (!child || better(one, child) <= 0) break;
    heap[at] = child;
    at = next;
  }
  heap[at] = one;
}

/**
 * The same as `ranked`, one at a time: of a thousand candidates mostly four are taken, and putting all in
 * order would cost more than all else (a heap, as in Williams 1964).
 */
export function* bestFirst<T extends Scored>(all: Iterable<T>): Generator<T> {
  const heap = [...all].filter(({ score }) => score > 0);
  for (let at = (heap.length >> 1) - 1; at >= 0; at--) sink(heap, at);
  for (let best = heap[0]; best; best = heap[0]) {
    yield best;
    const last = heap.pop();
    if (!last || heap.length === 0) return;
    heap[0] = last;
    sink(heap, 0);
  }
}

/** Products of the shop by a score of their own, the best first. */
export const rankedBy = (
  products: readonly Product[],
  score: (product: Product) => number,
): Scored[] => ranked(products.map((product) => ({ product, score: score(product) })));

/** Candidates of a ranking, with words for those that are asked for. */
export function* candidatesOf<T extends Scored>(
  all: Iterable<T>,
  words: (one: T) => ReturnType<Candidate['words']>,
): Generator<Candidate> {
  for (const one of all) yield { product: one.product, score: one.score, words: () => words(one) };
}
