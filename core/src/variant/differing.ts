import type { Op, Program } from '../build';
import { asksOnce } from '../render';

/** Where an operation names formulas by number. */
const BY_NUMBER = new Set(['formula', 'list', 'where', 'by', 'fill']);

/** What an operation does, as text: numbers of formulas, which other operations move, as the formulas themselves. */
function saidBy(op: Op, formulas: readonly string[]): string {
  const said = (number: number) => ({ formula: formulas[number] });
  return JSON.stringify(op, (name, value: unknown) => {
    if (typeof value === 'number' && BY_NUMBER.has(name)) return said(value);
    if (name === 'parts' && Array.isArray(value))
      return value.map((part: unknown) => (typeof part === 'number' ? said(part) : part));
    return value;
  });
}

/** How many members two lists have in common from their first on, or from their last. */
function commonEnd(a: readonly string[], b: readonly string[], at: (i: number) => number): number {
  let count = 0;
  while (count < Math.min(a.length, b.length) && a.at(at(count)) === b.at(at(count))) count++;
  return count;
}

/** How often each text stands in a list. */
function counted(texts: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return counts;
}

/** Whether all that is filled depends on the operations alone. */
const isAlike = (a: Program, b: Program): boolean =>
  a.isolates === b.isolates &&
  JSON.stringify(saidTags(a)) === JSON.stringify(saidTags(b)) &&
  // What a list leaves out depends on what stands above it.
  ![a.html, b.html].some(asksOnce);

const saidTags = ({ linkTags = [], formulas }: Program) =>
  linkTags.map(({ parameter, parts }) => [
    parameter,
    parts.map((part) => (typeof part === 'number' ? { formula: formulas[part] } : part)),
  ]);

/**
 * Two programs without the parts of their HTML that are the same in both, in the same order: they come to the same for
 * everybody, and need not be filled to find out what an edit changes. The programs themselves where that is not sure.
 */
export function differing(before: Program, after: Program): [Program, Program] {
  if (!isAlike(before, after)) return [before, after];
  const old = before.html.map((op) => saidBy(op, before.formulas));
  const now = after.html.map((op) => saidBy(op, after.formulas));
  const start = commonEnd(old, now, (i) => i);
  const end = commonEnd(old.slice(start), now.slice(start), (i) => -1 - i);
  const inOld = counted(old.slice(start, old.length - end));
  const inNow = counted(now.slice(start, now.length - end));
  const isSame = (text: string) => inOld.get(text) === 1 && inNow.get(text) === 1;
  const same = (said: readonly string[]) => said.slice(start, said.length - end).filter(isSame);
  // Parts that changed places are an edit, too.
  if (same(old).join('\n') !== same(now).join('\n')) return [before, after];
  const rest = (program: Program, said: readonly string[]): Program => ({
    ...program,
    html: program.html.filter(
      (_, i) => i >= start && i < said.length - end && !isSame(said[i] ?? ''),
    ),
  });
  return [rest(before, old), rest(after, now)];
}
