import type { Occasion } from './occasion';
import type { Segment } from './segment';

/** What somebody must be, apart from what happens and from their past: all of it. Plain data. */
export interface WhomAsks {
  /** Formulas over the record, each of which must hold, or must not. */
  asks: { formula: string; is: boolean }[];
  /** One of these addresses, in small letters; null for any. */
  addresses: string[] | null;
}

/** Whom an occasion is for. A segment that is gone is nobody. */
export function whomAsks(
  { segment, without, where = '', guests, addresses = [] }: Occasion['whom'],
  segments: readonly Segment[],
): WhomAsks {
  const named = (name: string) => segments.find((one) => one.name === name)?.formula ?? 'false';
  const asks: WhomAsks['asks'] = [];
  if (segment) asks.push({ formula: named(segment), is: true });
  if (without) asks.push({ formula: named(without), is: false });
  if (where.trim() !== '') asks.push({ formula: where, is: true });
  if (!guests) asks.push({ formula: 'person.guest', is: false });
  return { asks, addresses: addresses.length > 0 ? addresses : null };
}

const sets = new WeakMap<readonly string[], ReadonlySet<string>>();

/** Whether an address is one of many, whatever its letter case; looked up, not gone through. */
export function isAmong(addresses: readonly string[], email: unknown): boolean {
  let set = sets.get(addresses);
  if (!set) {
    set = new Set(addresses);
    sets.set(addresses, set);
  }
  return set.has(String(email ?? '').toLowerCase());
}
