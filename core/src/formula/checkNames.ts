import { distance } from 'fastest-levenshtein';
import type { Shape } from '../shape';
import { namesOf, type Said } from './checkRules';
import type { Repair } from './finding';
import { RESERVED } from './lex';

/** The nearest of some names, weighed by length: in a short name few letters may differ. Undefined where none is near. */
export function nearestName(name: string, known: readonly string[]): string | undefined {
  const folded = name.toLowerCase();
  const most = Math.max(1, Math.floor(folded.length / 2.5));
  let best: { name: string; far: number } | undefined;
  for (const one of known) {
    const far = distance(folded, one.toLowerCase());
    if (far <= most && far < one.length && (!best || far < best.far)) best = { name: one, far };
  }
  return best?.name;
}

const MAX_DEPTH = 4;
const PLAIN = /^[\p{L}_][\p{L}\p{Nd}_]*$/u;

/** Every path of a record's own fields, not those of lists' members, as formulas write them. */
function pathsOf(shape: Shape, prefix = '', depth = 0): string[] {
  if (shape.kind !== 'record' || depth >= MAX_DEPTH) return [];
  return Object.entries(shape.fields).flatMap(([name, field]) => {
    if (!PLAIN.test(name) || RESERVED.has(name)) return [];
    const path = prefix === '' ? name : `${prefix}.${name}`;
    return [path, ...pathsOf(field.shape, path, depth + 1)];
  });
}

const lastOf = (path: string) => path.slice(path.lastIndexOf('.') + 1);

/** What other languages call nothing, yes and no. */
const NOTHING = new Set(['null', 'nil', 'none', 'nothing', 'undefined', 'blank', 'na']);
const YES_NO: Record<string, string> = { yes: 'true', no: 'false', on: 'true', off: 'false' };

export const isNothing = (name: string) => NOTHING.has(name.toLowerCase());

/** What is said of a bare name that means nothing here; `known` are those that do, `root` the record. */
export function unknownName(name: string, known: readonly string[], root: Shape): Said {
  const use = (text: string): Repair => ({ label: `Use ${text}`, text });
  const lower = name.toLowerCase();
  const yesNo = YES_NO[lower];
  if (yesNo !== undefined)
    return { message: `“${name}” is written “${yesNo}” here.`, repair: use(yesNo) };
  if (RESERVED.has(lower) || isNothing(name)) {
    const word = isNothing(name) ? 'missing' : lower;
    return { message: `“${name}” is written “${word}” here.`, repair: use(word) };
  }
  const nearest = nearestName(name, known);
  const paths = pathsOf(root).filter((path) => path.includes('.'));
  const elsewhere =
    paths.find((path) => lastOf(path).toLowerCase() === lower) ??
    (nearest === undefined
      ? paths.find((path) => lastOf(path) === nearestName(name, [lastOf(path)]))
      : undefined);
  const offered = elsewhere ?? nearest;
  if (offered === undefined) return { message: `Nothing is named “${name}” here.` };
  const which = elsewhere === undefined ? 'The nearest is' : 'Is it';
  const end = elsewhere === undefined ? '.' : '?';
  return {
    message: `Nothing is named “${name}” here. ${which} “${offered}”${end}`,
    repair: use(offered),
  };
}

/** What is said of a field that a record does not have; `whole` writes the path with another name. */
export function unknownField(name: string, from: Shape, whole: (name: string) => string): Said {
  const nearest = nearestName(name, namesOf(from));
  if (nearest === undefined) {
    const some = namesOf(from).slice(0, 4).join(', ');
    return {
      message: `Nothing is named “${name}” here${some === '' ? '.' : `: there is ${some}${namesOf(from).length > 4 ? ' …' : '.'}`}`,
    };
  }
  return {
    message: `Nothing is named “${name}” here. The nearest is “${nearest}”.`,
    repair: { label: `Use ${nearest}`, text: whole(nearest) },
  };
}

/** Functions by the names that they have in other languages. */
const ALSO: Record<string, string> = {
  len: 'length',
  size: 'count',
  avg: 'average',
  mean: 'average',
  uppercase: 'upper',
  lowercase: 'lower',
  capitalize: 'title',
  capitalise: 'title',
  concat: 'join',
  truncate: 'shorten',
  left: 'shorten',
  currency: 'money',
  datediff: 'days_between',
  dateadd: 'add_days',
  unique: 'distinct',
  total: 'sum',
  switch: 'one_of',
  encode: 'urlencode',
  strip_tags: 'plain',
};
/** What is a value here, and a function elsewhere. */
const VALUES: Record<string, string> = { now: 'now', today: 'today', true: 'true', false: 'false' };
/** Questions that are asked in words here. */
const ASKED: Record<string, string> = {
  exists: 'is filled',
  isset: 'is filled',
  isblank: 'is empty',
  isempty: 'is empty',
  is_empty: 'is empty',
  isnull: 'is empty',
};
const FALLBACKS = new Set(['coalesce', 'default', 'ifnull', 'ifblank', 'nvl', 'fallback']);

/** What is said of a function that there is not; `args` as they print. */
export function unknownFunction(
  name: string,
  args: readonly string[],
  functions: readonly string[],
): Said {
  const lower = name.toLowerCase();
  const [first = ''] = args;
  const written = (text: string): Said => ({
    message: `“${name}(…)” is written “${text}” here.`,
    repair: { label: `Write ${text}`, text },
  });
  if (Object.hasOwn(VALUES, lower) && args.length === 0) return written(VALUES[lower] ?? '');
  if (Object.hasOwn(ASKED, lower) && args.length === 1)
    return written(`(${first} ${ASKED[lower] ?? ''})`);
  if (FALLBACKS.has(lower) && args.length === 2) return written(`(${args.join(' otherwise ')})`);
  const known = Object.hasOwn(ALSO, lower) ? ALSO[lower] : nearestName(lower, functions);
  if (known === undefined) return { message: `There is no function “${name}”.` };
  return {
    message: `There is no function “${name}”. The nearest is “${known}”.`,
    repair: { label: `Use ${known}`, text: `${known}(${args.join(', ')})` },
  };
}
