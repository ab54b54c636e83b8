import type { Fields } from '../formula';
import { textOf } from './define';

/** Terms of a product, with the weight of each; their squares come to 1. */
interface Vector {
  terms: readonly string[];
  weights: readonly number[];
}

/** The products that have a term, by place, and its weight in each. */
interface Holders {
  products: number[];
  weights: number[];
}
const NOBODY: Holders = { products: [], weights: [] };

/** A product is described by so many of its words, the most telling. */
const MOST_TERMS = 24;

const wordsOf = (text: string): string[] =>
  text
    .toLocaleLowerCase('en')
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .match(/[\p{L}\p{N}]{2,}/gu) ?? [];

/**
 * The words of products, by TF-IDF (Salton and Buckley 1988): a word counts the more the fewer products have it.
 * Lists of who has a word make it quick to find what is alike.
 */
export class WordIndex {
  private readonly vectors: Vector[];
  private readonly holders = new Map<string, Holders>();

  constructor(records: readonly Fields[]) {
    const all = records.map((record) => {
      const counts = new Map<string, number>();
      for (const word of wordsOf(`${textOf(record, 'name')} ${textOf(record, 'description')}`))
        counts.set(word, (counts.get(word) ?? 0) + 1);
      return counts;
    });
    const having = new Map<string, number>();
    for (const counts of all)
      for (const word of counts.keys()) having.set(word, (having.get(word) ?? 0) + 1);
    this.vectors = all.map((counts, product) => {
      const weighed = [...counts]
        .map(
          ([term, n]) =>
            [term, (1 + Math.log(n)) * this.idf(having.get(term) ?? 1, all.length)] as const,
        )
        .filter(([, weight]) => weight > 0)
        .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
        .slice(0, MOST_TERMS);
      const length = Math.sqrt(weighed.reduce((sum, [, w]) => sum + w * w, 0)) || 1;
      const vector = {
        terms: weighed.map(([term]) => term),
        weights: weighed.map(([, w]) => w / length),
      };
      vector.terms.forEach((term, i) => {
        const known = this.holders.get(term) ?? { products: [], weights: [] };
        known.products.push(product);
        known.weights.push(vector.weights[i] ?? 0);
        this.holders.set(term, known);
      });
      return vector;
    });
  }

  private idf(having: number, all: number): number {
    return Math.log(all / having);
  }

  /**
   * Adds the cosine of a product's words with those of every other to `sums`, by place, and calls `met` for
   * each the first time. A sum that was not met is 0 before.
   */
  cosines(product: number, sums: Float64Array, met: (other: number) => void): void {
    const vector = this.vectors[product];
    if (!vector) return;
    for (let i = 0; i < vector.terms.length; i++) {
      const own = vector.weights[i] ?? 0;
      const { products, weights } = this.holders.get(vector.terms[i] ?? '') ?? NOBODY;
      for (let h = 0; h < products.length; h++) {
        const other = products[h] ?? 0;
        if (sums[other] === 0) met(other);
        sums[other] = (sums[other] ?? 0) + own * (weights[h] ?? 0);
      }
    }
  }
}
