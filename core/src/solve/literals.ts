import { parsedFormula, parsedRunning, walk, type Node } from '../formula';

/** The formulas of a text: one, or those between braces. */
export function nodesOf(source: string): Node[] {
  if (source.includes('{{')) {
    const parsed = parsedRunning(source);
    return parsed.ok ? parsed.value.flatMap((one) => (one.type === 'tag' ? [one.node] : [])) : [];
  }
  const parsed = parsedFormula(source);
  return parsed.ok ? [parsed.value] : [];
}

/** What formulas compare with. */
export interface Literals {
  /** The numbers that stand in them, each once, and what arithmetic makes of them where there is some. */
  numbers: number[];
  texts: string[];
  /** Whether days, months or years of dates are asked, or dates as they print. */
  asksCalendar: boolean;
  /** Whether the letters of a text are counted. */
  asksLength: boolean;
}

const CALENDAR = new Set(['day', 'month', 'year', 'weekday_number', 'date']);
const ARITHMETIC = new Set(['+', '-', '*', '/']);
/** Of more numbers than so many, no sums are made. */
const MOST_SUMMED = 6;

/** What two numbers come to in each way: a field that is multiplied by 2 must be 25 to come to 50. */
function combined(numbers: readonly number[]): number[] {
  if (numbers.length > MOST_SUMMED) return [];
  return numbers
    .flatMap((a) => numbers.flatMap((b) => [a + b, a - b, a * b, a / b]))
    .filter((n) => Number.isFinite(n));
}

/** The numbers and texts that formulas compare with, and how they ask for dates and texts. */
export function literalsOf(sources: readonly string[]): Literals {
  const numbers = new Set<number>();
  const texts = new Set<string>();
  const calls = new Set<string>();
  let sums = false;
  for (const source of sources)
    for (const root of nodesOf(source))
      walk(root, (node) => {
        if (node.type === 'number') numbers.add(node.value);
        if (node.type === 'text') texts.add(node.value);
        if (node.type === 'call') calls.add(node.name);
        if (node.type === 'binary' && ARITHMETIC.has(node.op)) sums = true;
      });
  const written = [...numbers];
  return {
    numbers: [...new Set([...written, ...(sums ? combined(written) : [])])],
    texts: [...texts],
    asksCalendar: [...calls].some((name) => CALENDAR.has(name)),
    asksLength: calls.has('length'),
  };
}
