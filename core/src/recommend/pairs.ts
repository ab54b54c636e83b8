import type { History } from './history';

/** A product beside another, by how many people bought both. */
export interface Pair {
  product: number;
  /** People who bought both. */
  people: number;
  /** How many times more than by chance: P(both) / (P(one) · P(other)). */
  lift: number;
}

/** Of one person so many products count for pairs: who bought everything says little of what goes together. */
const MOST_OF_ONE = 200;
/** So many pairs are kept of a product, the best. */
const MOST_KEPT = 100;

/**
 * What is bought by the same people, by lift with a floor on how many they are (Agrawal and others 1993
 * call the latter support). Pairs of few people have a large lift by chance alone, so it is shrunk by
 * `people / (people + floor)`.
 */
export class Pairs {
  private readonly beside: readonly (readonly Pair[])[];
  /** How many people bought each product. */
  readonly buyers: Int32Array;

  constructor(
    { people, products, bought, own }: History,
    readonly floor = 2,
  ) {
    const count = products.all.length;
    this.buyers = new Int32Array(count);
    const together = new Map<number, number>();
    for (let p = 0; p < people.all.length; p++) {
      const lines = own.lines.subarray(own.starts[p] ?? 0, own.starts[p + 1] ?? 0);
      const mine = [...new Set(Array.from(lines, (line) => bought.product[line] ?? 0))];
      for (const product of mine) this.buyers[product] = (this.buyers[product] ?? 0) + 1;
      const some = mine.slice(-MOST_OF_ONE);
      for (let i = 0; i < some.length; i++)
        for (let j = i + 1; j < some.length; j++) {
          const [a, b] = [some[i] ?? 0, some[j] ?? 0];
          const key = Math.min(a, b) * count + Math.max(a, b);
          together.set(key, (together.get(key) ?? 0) + 1);
        }
    }
    const all = people.all.length;
    const found: Pair[][] = Array.from({ length: count }, () => []);
    for (const [key, both] of together) {
      if (both < floor) continue;
      const [a, b] = [Math.floor(key / count), key % count];
      const lift = (both * all) / ((this.buyers[a] ?? 1) * (this.buyers[b] ?? 1));
      found[a]?.push({ product: b, people: both, lift });
      found[b]?.push({ product: a, people: both, lift });
    }
    this.beside = found.map((pairs) =>
      pairs
        .sort((x, y) => this.score(y) - this.score(x) || x.product - y.product)
        .slice(0, MOST_KEPT),
    );
  }

  /** The lift as it counts: of few people less. */
  score({ people, lift }: Pair): number {
    return lift * (people / (people + this.floor));
  }

  /** What goes with a product, the best first. */
  of(product: number): readonly Pair[] {
    return this.beside[product] ?? [];
  }
}
