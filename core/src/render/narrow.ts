import {
  Day,
  newContext,
  parsedFormula,
  readDate,
  walk,
  type Context,
  type Fields,
} from '../formula';
import type { Loop } from '../template/parts';
import { compileLoop } from './loop';
import { contextFor } from './record';

/** A product as it was read, with its place in the catalog. */
export interface Narrowed {
  /** Places of the members that are shown to anybody, in the order of the catalog. */
  shown: number[];
  /** For each loop, how many members its filter keeps. */
  kept: number[];
}

/** A mail shows about so many products at most. */
const MOST_ABOVE = 100;
/** Between the clocks of these all others are. */
const FIRST_AND_LAST = ['Etc/GMT-14', 'Etc/GMT+12'];

/** What the loops ask, as indexes of formulas; `more` are walked beyond what is shown at most. */
function walkOf(loop: Loop, more: number) {
  return compileLoop(
    {
      list: 0,
      as: loop.as,
      ...(loop.where && { where: 1 }),
      ...(loop.sort && { by: 2, down: loop.sort.direction === 'descending' }),
      // Of a loop that leaves out what stands above, others may come in its place.
      ...(loop.at_most && { atMost: loop.at_most + more + (loop.once ? MOST_ABOVE : 0) }),
    },
    [loop.list, loop.where ?? '', loop.sort?.by ?? ''],
  );
}

/** Whether what a loop shows may differ by the clocks of the recipient: it asks for the day, or names one. */
function isOfTheDay({ list, where, sort }: Loop): boolean {
  return [list, where, sort?.by].some((formula) => {
    const parsed = formula === undefined ? undefined : parsedFormula(formula);
    let found = false;
    if (parsed?.ok)
      walk(parsed.value, (node) => {
        if (node.type === 'name') found ||= node.name === 'now' || node.name === 'today';
        if (node.type === 'text') found ||= readDate(node.value) !== undefined;
      });
    return found;
  });
}

/** Whether a field holds bare days in some products and instants in others: their order goes by the clocks. */
function mixesDates(products: readonly Fields[]): boolean {
  const kinds = new Map<string, boolean>();
  return products.some((product) =>
    Object.entries(product).some(([field, value]) => {
      if (!(value instanceof Date)) return false;
      const isDay = value instanceof Day;
      if (!kinds.has(field)) kinds.set(field, isDay);
      return kinds.get(field) !== isDay;
    }),
  );
}

/** All members that a loop goes through, in whatever order. */
const membersOf = ({ list, as, where }: Loop, context: Context): Set<unknown> =>
  new Set(walkOf({ list, as, ...(where !== undefined && { where }) }, 0)(context).shown);

/** What is a member in some of these and not in all. */
function differing(all: readonly Set<unknown>[]): Set<unknown> {
  const some = new Set(all.flatMap((members) => [...members]));
  for (const one of some) if (all.every((members) => members.has(one))) some.delete(one);
  return some;
}

/** Contexts as the shop has them, and by the first and the last clocks for every day that it is somewhere. */
function contextsOf(record: Fields, asOf: Date): { inShop: Context; elsewhere: Context[] } {
  const at = (person: Fields) => contextFor({ ...record, person }, { asOf });
  const inShop = at({});
  const ends = FIRST_AND_LAST.map((timezone) => at({ timezone }));
  const days = new Map(
    [inShop, ...ends].map(({ locale }) => [+locale.day(asOf), locale.day(asOf)]),
  );
  const elsewhere = ends.flatMap(({ locale }) =>
    [...days.values()].map((today) => {
      const context = newContext(record, locale);
      context.clock = { now: asOf, today };
      return context;
    }),
  );
  return { inShop, elsewhere };
}

/**
 * Which members of a catalog some loops show to anybody. Such a loop over these members alone, in the
 * order of the catalog, gives what it gives over all of them: whoever is among the first so many of all
 * is among the first so many of these. Where clocks count, what is a member by some clocks alone is kept whole, and
 * of the others so many more: whatever of it a recipient does not get, those that come in its place are there.
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
  const keep = (members: Iterable<unknown>) => {
    for (const member of members) {
      const place = places.get(member);
      if (place !== undefined) shown.add(place);
    }
  };
  const { inShop, elsewhere } = contextsOf({ ...shared, catalog: { [name]: products } }, now);
  let isMixed: boolean | undefined;
  const kept = loops.map((loop) => {
    isMixed ??= loop.sort ? mixesDates(products) : undefined;
    const others = isOfTheDay(loop) || (loop.sort && isMixed) ? elsewhere : [];
    // Where there are no others, nothing differs.
    const all = others.length > 0 ? [inShop, ...others] : [];
    const some = differing(all.map((context) => membersOf(loop, context)));
    keep(some);
    for (const context of others) keep(walkOf(loop, some.size)(context).shown);
    const own = walkOf(loop, some.size)(inShop);
    keep(own.shown);
    return own.kept;
  });
  return { shown: [...shown].sort((a, b) => a - b), kept };
}
