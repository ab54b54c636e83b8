/** Milliseconds of a day. */
export const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;
/** When a line happened, in milliseconds, to the minute. */
export const instantOfLine = ({ day, minute }: Lines, line: number): number =>
  (day[line] ?? 0) * DAY_MS + (minute[line] ?? 0) * MINUTE_MS;
/** Days since 1970. */
export const dayOf = (at: number): number => Math.floor(at / DAY_MS);

/** What people did with products, on typed arrays: the lines of each person together, the earliest first. */
export interface Lines {
  /** The lines of person p stand from `starts[p]` to `starts[p + 1]`. */
  starts: Int32Array;
  product: Int32Array;
  /** Days since 1970. */
  day: Int32Array;
  /** The minute of that day, from 0. */
  minute: Int16Array;
  quantity: Float32Array;
  /** The price of one. */
  price: Float32Array;
}

/** One line before it has its place. */
export interface Line {
  product: number;
  /** Milliseconds. */
  at: number;
  quantity: number;
  price: number;
}

const blank = (people: number, lines: number): Lines => ({
  starts: new Int32Array(people + 1),
  product: new Int32Array(lines),
  day: new Int32Array(lines),
  minute: new Int16Array(lines),
  quantity: new Float32Array(lines),
  price: new Float32Array(lines),
});

export const NO_LINES: Lines = blank(0, 0);

/** Lines of one instant stand by their names: numbers depend on who came first. */
function put(into: Lines, from: number, lines: readonly Line[], names: readonly string[]): void {
  const inTime = [...lines].sort((a, b) => a.at - b.at || byName(names, a.product, b.product));
  inTime.forEach(({ product, at, quantity, price }, i) => {
    into.product[from + i] = product;
    into.day[from + i] = dayOf(at);
    into.minute[from + i] = Math.floor((at - dayOf(at) * DAY_MS) / MINUTE_MS);
    into.quantity[from + i] = quantity;
    into.price[from + i] = price;
  });
}

function copy(from: Lines, start: number, end: number, into: Lines, at: number): void {
  into.product.set(from.product.subarray(start, end), at);
  into.day.set(from.day.subarray(start, end), at);
  into.minute.set(from.minute.subarray(start, end), at);
  into.quantity.set(from.quantity.subarray(start, end), at);
  into.price.set(from.price.subarray(start, end), at);
}

/** The order of two products by name. */
export function byName(names: readonly string[], a: number, b: number): number {
  const [one, other] = [names[a] ?? '', names[b] ?? ''];
  return one < other ? -1 : one > other ? 1 : 0;
}

const startOf = ({ starts }: Lines, person: number): number =>
  starts[Math.min(person, starts.length - 1)] ?? 0;

/**
 * The same lines with those of some people replaced; `people` is how many there are now, `names` those of products. What others did is
 * copied in one piece, so that one order among a million costs some milliseconds.
 */
export function withLines(
  before: Lines,
  people: number,
  changed: ReadonlyMap<number, readonly Line[]>,
  names: readonly string[],
): Lines {
  const had = before.starts.length - 1;
  const size = (person: number) => startOf(before, person + 1) - startOf(before, person);
  let total = before.product.length;
  for (const [person, lines] of changed) total += lines.length - (person < had ? size(person) : 0);
  const after = blank(people, total);
  let at = 0;
  let from = 0;
  const through = (until: number) => {
    const [start, end] = [startOf(before, from), startOf(before, until)];
    copy(before, start, end, after, at);
    for (let p = from; p < until; p++) after.starts[p] = at + startOf(before, p) - start;
    at += end - start;
  };
  for (const person of [...changed.keys()].sort((a, b) => a - b)) {
    through(person);
    after.starts[person] = at;
    const lines = changed.get(person) ?? [];
    put(after, at, lines, names);
    at += lines.length;
    from = person + 1;
  }
  through(people);
  after.starts[people] = at;
  return after;
}

/** For each product the people who have a line of it, each once. */
export interface ByProduct {
  starts: Int32Array;
  person: Int32Array;
}

/** Turns lines round: by counting, in two passes. */
export function byProduct({ starts, product }: Lines, products: number): ByProduct {
  const people = starts.length - 1;
  const counts = new Int32Array(products + 1);
  const last = new Int32Array(products).fill(-1);
  const each = (seen: (product: number, person: number) => void) => {
    last.fill(-1);
    for (let p = 0; p < people; p++)
      for (let i = starts[p] ?? 0; i < (starts[p + 1] ?? 0); i++) {
        const one = product[i] ?? 0;
        if (last[one] === p) continue;
        last[one] = p;
        seen(one, p);
      }
  };
  each((one) => (counts[one + 1] = (counts[one + 1] ?? 0) + 1));
  for (let i = 0; i < products; i++) counts[i + 1] = (counts[i + 1] ?? 0) + (counts[i] ?? 0);
  const next = counts.slice();
  const person = new Int32Array(counts[products] ?? 0);
  each((one, p) => {
    const at = next[one] ?? 0;
    person[at] = p;
    next[one] = at + 1;
  });
  return { starts: counts, person };
}
