import type { Fields } from '../formula';
import { epochAt } from './epochAt';

/** What the shop came to know otherwise of a person: by an import, or by what they told. */
export interface PersonChange {
  /** Milliseconds. */
  at: number;
  /** The fields that changed, as they were until then; null for those that had no value. */
  before: Fields;
}

/** The fields of a person that are others afterwards, as they were; null for those that were not there. */
export function fieldsChanged(before: Fields, after: Fields): Fields {
  const valueIn = (record: Fields, name: string): unknown =>
    Object.hasOwn(record, name) ? (record as Record<string, unknown>)[name] : null;
  const changed: Record<string, unknown> = {};
  for (const name of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const was = valueIn(before, name);
    if (name === '__proto__' || JSON.stringify(was) === JSON.stringify(valueIn(after, name)))
      continue;
    changed[name] = was;
  }
  return changed as Fields;
}

/**
 * A person as they were known at instants of the past: with what every field was before the first change after that
 * instant that touched it. `changes` in any order. For all instants between the same two changes the very same fields are
 * given, so that what is put together of them can be kept.
 */
export function personThen(
  person: Fields,
  changes: readonly PersonChange[],
): (at: number) => Fields {
  if (changes.length === 0) return () => person;
  const inTime = [...changes].sort((a, b) => a.at - b.at);
  const times = [...new Set(inTime.map(({ at }) => at))];
  const known = new Map<number, Fields>();
  return (at) => {
    const epoch = epochAt(times, at);
    if (epoch === times.length) return person;
    const found = known.get(epoch);
    if (found) return found;
    const then = { ...person } as Record<string, unknown>;
    // The latest first: what an earlier one tells of a field stands.
    for (const change of [...inTime].reverse()) {
      if (change.at <= at) break;
      for (const [name, value] of Object.entries(change.before))
        if (value === null) delete then[name];
        else then[name] = value;
    }
    known.set(epoch, then as Fields);
    return then as Fields;
  };
}
