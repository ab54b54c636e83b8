import { fieldOf, rootsOf, type Context, type Node, type Value } from '../formula';

/** The members that a loop shows, with how many there were before. */
export interface Walked {
  before: readonly unknown[];
  kept: number;
  shown: readonly Value[];
  currency: string | undefined;
  /** Whether it is the same for many recipients, and the same object. */
  isShared?: true;
}

/** `shown` are the SKUs that the mail shows so far. */
export type Walk = (context: Context, shown?: ReadonlySet<unknown>) => Walked;

/** The parts of a record that all recipients of a shop share, each the same object for many mails. */
const SHARED = ['catalog', 'feeds', 'shop'] as const;
/** So many ways of reading it are kept: a shop has recipients of a few languages and zones. */
const MOST = 40;

/** What a walk depended on, and what it came to. */
interface Kept {
  shared: readonly unknown[];
  now: number;
  currency: string | undefined;
  walked: Walked;
}

/** The moment of a context in milliseconds; undefined where it has none. */
function nowOf({ clock, record }: Context): number | undefined {
  const now = fieldOf(record, 'now') ?? clock?.now;
  return now instanceof Date ? now.getTime() : undefined;
}

/** Whether any of the names of formulas is a recipient's own: whatever their record has beside what is shared. */
export function readsOwn(names: readonly string[]): (record: Context['record']) => boolean {
  const shared = new Set<string>(SHARED);
  const own = names.filter((name) => !shared.has(name));
  return (record) => own.some((name) => name === 'record' || Object.hasOwn(record, name));
}

/**
 * A walk over what all recipients share, as "the newest four of the catalog", is made once for all of one language, zone
 * and moment, and not for each of 100,000 mails. Any name that the record of this recipient has beside that is somebody’s
 * own, and so is what an outer loop stands at: then it is walked anew.
 */
export function rememberShared(
  walk: Walk,
  nodes: readonly Node[],
  currencyOf: (context: Context) => string | undefined,
): Walk {
  const names = [...rootsOf(...nodes)];
  const shared = new Set<string>(SHARED);
  if (!names.some((name) => shared.has(name))) return walk;
  const asksOwn = readsOwn(names);
  const kept = new Map<Context['locale'], Kept>();
  return (c, shown) => {
    const { record, locale } = c;
    const now = nowOf(c);
    const isOwn = c.frame !== null || c.reasons !== null || now === undefined;
    if (isOwn || asksOwn(record)) return walk(c, shown);
    const currency = currencyOf(c);
    const known = kept.get(locale);
    if (
      known?.now === now &&
      known.currency === currency &&
      SHARED.every((name, i) => known.shared[i] === fieldOf(record, name))
    )
      return known.walked;
    const walked: Walked = walk(c, shown);
    // What was cut short because this mail has done too much is nobody else’s.
    if (c.total <= 0) return walked;
    walked.isShared = true;
    if (kept.size >= MOST) kept.clear();
    kept.set(locale, {
      ...{ now, currency, walked },
      shared: SHARED.map((name) => fieldOf(record, name)),
    });
    return walked;
  };
}
