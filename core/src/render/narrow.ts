import {
  localeOf,
  newContext,
  parsedFormula,
  toDate,
  walk,
  type Context,
  type Fields,
  type Value,
} from '../formula';
import type { Loop } from '../template/parts';
import { compileLoop } from './loop';

/** A product as it was read, with its place in the catalog. */
export interface Narrowed {
  /** Places of the members that are shown to anybody, in the order of the catalog. */
  shown: number[];
  /** For each loop, how many members its filter keeps. */
  kept: number[];
}

const DAY_MS = 86_400_000;
/** A mail shows about so many products at most. */
const MOST_ABOVE = 100;

/** What the loops ask, as indexes of formulas. */
function walkOf(loop: Loop) {
  return compileLoop(
    {
      list: 0,
      as: loop.as,
      ...(loop.where && { where: 1 }),
      ...(loop.sort && { by: 2, down: loop.sort.direction === 'descending' }),
      // Of a loop that leaves out what stands above, others may come in its place.
      ...(loop.at_most && { atMost: loop.at_most + (loop.once ? MOST_ABOVE : 0) }),
    },
    [loop.list, loop.where ?? '', loop.sort?.by ?? ''],
  );
}

/** Whether what a loop shows may differ from day to day. */
function isOfTheDay({ list, where, sort }: Loop): boolean {
  return [list, where, sort?.by].some((formula) => {
    const parsed = formula === undefined ? undefined : parsedFormula(formula);
    let found = false;
    if (parsed?.ok)
      walk(parsed.value, (node) => {
        if (node.type === 'name' && (node.name === 'now' || node.name === 'today')) found = true;
      });
    return found;
  });
}

/**
 * Which members of a catalog some loops show to anybody. Such a loop over these members alone, in the
 * order of the catalog, gives what it gives over all of them: whoever is among the first so many of all
 * is among the first so many of these. The recipient's day may be the one before or after the shop's.
 */
export function narrowCatalog(
  loops: readonly Loop[],
  name: string,
  products: readonly Fields[],
  shared: Fields,
  now: Date,
): Narrowed {
  const places = new Map<unknown, number>(products.map((product, i) => [product, i]));
  const shown = new Set<number>();
  const kept = loops.map((loop) => {
    let most = 0;
    const walked = walkOf(loop);
    for (const days of isOfTheDay(loop) ? [-1, 0, 1] : [0]) {
      const { kept: count, shown: members } = walked(contextOn(days));
      most = days === 0 ? count : most;
      for (const member of members) {
        const place = places.get(member);
        if (place !== undefined) shown.add(place);
      }
    }
    return most;
  });
  return { shown: [...shown].sort((a, b) => a - b), kept };

  function contextOn(days: number): Context {
    const context = newContext({ ...shared, catalog: { [name]: products } }, localeOf([], []));
    const day = toDate(new Date(now.getTime() + days * DAY_MS).toISOString().slice(0, 10)) as Value;
    context.clock = { now, today: day };
    return context;
  }
}
