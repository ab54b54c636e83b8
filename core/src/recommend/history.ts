/** Something that a person bought: one line of an order. */
export interface Bought {
  person: string;
  sku: string;
  quantity: number;
  /** The price of one. */
  price: number;
  /** Milliseconds. */
  at: number;
}
/** Something that a person looked at. */
export interface Viewed {
  person: string;
  sku: string;
  at: number;
}

/** Names as small numbers, in the order in which they first come. */
export class Names {
  private readonly numbers = new Map<string, number>();
  readonly all: string[] = [];

  add(name: string): number {
    const known = this.numbers.get(name);
    if (known !== undefined) return known;
    const number = this.all.push(name) - 1;
    this.numbers.set(name, number);
    return number;
  }

  find(name: string): number | undefined {
    return this.numbers.get(name);
  }
}

const DAY = 86_400_000;
export const dayOf = (at: number): number => Math.floor(at / DAY);

/** Lines of one kind, each a number of a person and of a product, in the order of time. */
interface Lines {
  person: Int32Array;
  product: Int32Array;
  /** Days since 1970. */
  day: Int32Array;
}

/** What a shop's people did, on typed arrays: a million lines are a few megabytes. */
export interface History {
  people: Names;
  products: Names;
  bought: Lines & { quantity: Float64Array; price: Float64Array };
  viewed: Lines;
  /** The lines that each person bought: from `starts[p]` to `starts[p + 1]` of `own`. */
  own: { starts: Int32Array; lines: Int32Array };
}

function byPerson(person: Int32Array, people: number): History['own'] {
  const starts = new Int32Array(people + 1);
  for (const p of person) starts[p + 1] = (starts[p + 1] ?? 0) + 1;
  for (let p = 0; p < people; p++) starts[p + 1] = (starts[p + 1] ?? 0) + (starts[p] ?? 0);
  const next = starts.slice();
  const lines = new Int32Array(person.length);
  person.forEach((p, i) => {
    const at = next[p] ?? 0;
    lines[at] = i;
    next[p] = at + 1;
  });
  return { starts, lines };
}

const inTime = (a: { at: number }, b: { at: number }) => a.at - b.at;

/** A history of lines in any order; what came after `until` (milliseconds) is not in it. */
export function historyOf(
  bought: readonly Bought[],
  viewed: readonly Viewed[] = [],
  until = Number.POSITIVE_INFINITY,
): History {
  const people = new Names();
  const products = new Names();
  const linesOf = (all: readonly Viewed[]): Lines => ({
    person: Int32Array.from(all, ({ person }) => people.add(person)),
    product: Int32Array.from(all, ({ sku }) => products.add(sku)),
    day: Int32Array.from(all, ({ at }) => dayOf(at)),
  });
  const sold = bought.filter(({ at }) => at <= until).sort(inTime);
  const seen = viewed.filter(({ at }) => at <= until).sort(inTime);
  const lines = linesOf(sold);
  const looks = linesOf(seen);
  return {
    ...{ people, products },
    bought: {
      ...lines,
      quantity: Float64Array.from(sold, ({ quantity }) => quantity),
      price: Float64Array.from(sold, ({ price }) => price),
    },
    viewed: looks,
    own: byPerson(lines.person, people.all.length),
  };
}

/** The lines that somebody bought, the earliest first. */
export function boughtBy({ people, own }: History, person: string): Int32Array {
  const p = people.find(person);
  if (p === undefined) return new Int32Array();
  return own.lines.subarray(own.starts[p] ?? 0, own.starts[p + 1] ?? 0);
}
