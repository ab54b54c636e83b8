import { stretchOf, type History } from './history';
import { seeded } from './random';

export interface TasteOptions {
  /** How many numbers describe a taste. */
  factors: number;
  rounds: number;
  /** How much more a purchase says than none: 1 + alpha × quantity. */
  alpha: number;
  /** Against fitting chance. */
  lambda: number;
  seed: number;
}
export const TASTE: TasteOptions = { factors: 32, rounds: 10, alpha: 20, lambda: 5, seed: 1 };

/** Products as points: near each other where the same people buy them. */
export interface Taste {
  factors: number;
  /** SKUs, in the order of the points. */
  skus: string[];
  /** `factors` numbers for each product. */
  points: Float32Array;
  lambda: number;
  alpha: number;
}

/** Solves A·x = b for a symmetric positive A, in place, by Cholesky's decomposition; x is left in b. */
export function solve(a: Float64Array, b: Float64Array, n: number): void {
  for (let j = 0; j < n; j++) {
    let diagonal = a[j * n + j] ?? 0;
    for (let k = 0; k < j; k++) diagonal -= (a[j * n + k] ?? 0) ** 2;
    const root = Math.sqrt(diagonal);
    a[j * n + j] = root;
    for (let i = j + 1; i < n; i++) {
      let sum = a[i * n + j] ?? 0;
      for (let k = 0; k < j; k++) sum -= (a[i * n + k] ?? 0) * (a[j * n + k] ?? 0);
      a[i * n + j] = sum / root;
    }
  }
  for (let i = 0; i < n; i++) {
    let sum = b[i] ?? 0;
    for (let k = 0; k < i; k++) sum -= (a[i * n + k] ?? 0) * (b[k] ?? 0);
    b[i] = sum / (a[i * n + i] ?? 1);
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = b[i] ?? 0;
    for (let k = i + 1; k < n; k++) sum -= (a[k * n + i] ?? 0) * (b[k] ?? 0);
    b[i] = sum / (a[i * n + i] ?? 1);
  }
}

/** YᵀY + λI of points. */
function gram(points: Float32Array, f: number, lambda: number): Float64Array {
  const out = new Float64Array(f * f);
  const count = points.length / f;
  for (let p = 0; p < count; p++)
    for (let i = 0; i < f; i++) {
      const one = points[p * f + i] ?? 0;
      for (let j = 0; j <= i; j++)
        out[i * f + j] = (out[i * f + j] ?? 0) + one * (points[p * f + j] ?? 0);
    }
  for (let i = 0; i < f; i++) {
    for (let j = 0; j < i; j++) out[j * f + i] = out[i * f + j] ?? 0;
    out[i * f + i] = (out[i * f + i] ?? 0) + lambda;
  }
  return out;
}

/** One row of the matrix: which columns, how much of each. */
interface Rows {
  starts: Int32Array;
  column: Int32Array;
  amount: Float32Array;
}

/** Puts the best point for a row, given the points of its columns, into `into` at `at`. */
function fit(
  columns: ArrayLike<number>,
  amounts: ArrayLike<number>,
  [from, to]: readonly [number, number],
  points: Float32Array,
  base: Float64Array,
  { f, alpha }: { f: number; alpha: number },
  scratch: { a: Float64Array; b: Float64Array },
): void {
  const { a, b } = scratch;
  a.set(base);
  b.fill(0);
  for (let n = from; n < to; n++) {
    const at = (columns[n] ?? 0) * f;
    const extra = alpha * (amounts[n] ?? 0);
    for (let i = 0; i < f; i++) {
      const one = points[at + i] ?? 0;
      b[i] = (b[i] ?? 0) + (1 + extra) * one;
      const scaled = extra * one;
      for (let j = 0; j <= i; j++)
        a[i * f + j] = (a[i * f + j] ?? 0) + scaled * (points[at + j] ?? 0);
    }
  }
  solve(a, b, f);
}

/** Who bought what, each pair once, with a quantity that grows slowly. */
function rowsOf({ bought, products }: History): Rows {
  const people = bought.starts.length - 1;
  const starts = new Int32Array(people + 1);
  const column = new Int32Array(bought.product.length);
  const amount = new Float32Array(bought.product.length);
  const at = new Int32Array(products.all.length);
  const last = new Int32Array(products.all.length).fill(-1);
  let end = 0;
  for (let p = 0; p < people; p++) {
    starts[p] = end;
    for (let i = bought.starts[p] ?? 0; i < (bought.starts[p + 1] ?? 0); i++) {
      const one = bought.product[i] ?? 0;
      if (last[one] === p) {
        amount[at[one] ?? 0] = (amount[at[one] ?? 0] ?? 0) + 1;
        continue;
      }
      last[one] = p;
      at[one] = end;
      column[end] = one;
      amount[end++] = 1;
    }
  }
  starts[people] = end;
  for (let i = 0; i < end; i++) amount[i] = Math.log2(1 + (amount[i] ?? 0));
  return { starts, column: column.slice(0, end), amount: amount.slice(0, end) };
}

function turnedRound({ starts, column, amount }: Rows, columns: number): Rows {
  const counts = new Int32Array(columns + 1);
  for (const c of column) counts[c + 1] = (counts[c + 1] ?? 0) + 1;
  for (let c = 0; c < columns; c++) counts[c + 1] = (counts[c + 1] ?? 0) + (counts[c] ?? 0);
  const next = counts.slice();
  const out = new Int32Array(column.length);
  const amounts = new Float32Array(column.length);
  for (let row = 0; row < starts.length - 1; row++)
    for (let i = starts[row] ?? 0; i < (starts[row + 1] ?? 0); i++) {
      const c = column[i] ?? 0;
      const at = next[c] ?? 0;
      out[at] = row;
      amounts[at] = amount[i] ?? 0;
      next[c] = at + 1;
    }
  return { starts: counts, column: out, amount: amounts };
}

function half(rows: Rows, points: Float32Array, into: Float32Array, options: TasteOptions): void {
  const { factors: f, lambda, alpha } = options;
  const base = gram(points, f, lambda);
  const scratch = { a: new Float64Array(f * f), b: new Float64Array(f) };
  for (let row = 0; row < rows.starts.length - 1; row++) {
    const stretch = [rows.starts[row] ?? 0, rows.starts[row + 1] ?? 0] as const;
    fit(rows.column, rows.amount, stretch, points, base, { f, alpha }, scratch);
    into.set(scratch.b, row * f);
  }
}

/**
 * Points for products and people so that a person's point times a product's tells how likely they buy it: by
 * alternating least squares on what was bought and what was not (Hu, Koren and Volinsky 2008, “Collaborative
 * filtering for implicit feedback datasets”). People's points are not kept: they are found anew from
 * what somebody bought when they are asked for.
 */
export function tasteOf(history: History, options: TasteOptions = TASTE): Taste {
  const { factors: f, rounds, seed, lambda, alpha } = options;
  const people = rowsOf(history);
  const columns = history.products.all.length;
  const products = turnedRound(people, columns);
  const random = seeded(seed);
  const points = Float32Array.from({ length: columns * f }, () => (random() - 0.5) * 0.2);
  const tastes = new Float32Array((people.starts.length - 1) * f);
  for (let round = 0; round < rounds; round++) {
    half(people, points, tastes, options);
    half(products, tastes, points, options);
  }
  return { factors: f, skus: [...history.products.all], points, lambda, alpha };
}

/** A taste, ready to be asked. */
export class TasteIndex {
  private readonly base: Float64Array;
  private readonly scratch: { a: Float64Array; b: Float64Array };
  private readonly places: ReadonlyMap<string, number>;

  constructor(readonly taste: Taste) {
    const { factors: f, points, lambda, skus } = taste;
    this.base = gram(points, f, lambda);
    this.scratch = { a: new Float64Array(f * f), b: new Float64Array(f) };
    this.places = new Map(skus.map((sku, i) => [sku, i]));
  }

  /** How much somebody who bought this would like each product, in the order of the taste's SKUs; null of nobody. */
  scores(history: History, person: string): Float32Array | null {
    const { factors: f, points, alpha } = this.taste;
    const [from, to] = stretchOf(history, history.bought, person);
    const amounts = new Map<number, number>();
    for (let i = from; i < to; i++) {
      const sku = history.products.all[history.bought.product[i] ?? 0] ?? '';
      const place = this.places.get(sku);
      if (place !== undefined) amounts.set(place, (amounts.get(place) ?? 0) + 1);
    }
    if (amounts.size === 0) return null;
    const columns = [...amounts.keys()];
    const weights = [...amounts.values()].map((n) => Math.log2(1 + n));
    fit(columns, weights, [0, columns.length], points, this.base, { f, alpha }, this.scratch);
    const { b } = this.scratch;
    const scores = new Float32Array(points.length / f);
    for (let p = 0; p < scores.length; p++) {
      let sum = 0;
      for (let i = 0; i < f; i++) sum += (points[p * f + i] ?? 0) * (b[i] ?? 0);
      scores[p] = sum;
    }
    return scores;
  }
}
