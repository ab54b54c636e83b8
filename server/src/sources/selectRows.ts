import { compile, evaluate, isBlank, parse, type Fields, type Value } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import { contextFor } from '@carafe/core/render';
import { ProfileBuilder, type FieldProfile } from '@carafe/core/shape';
import type { EventsRepository } from '../events/repository';
import type { EntriesRepository } from './entriesRepository';

/** A question to the rows of a source. */
export interface RowQuery {
  source: string;
  /** Asks the events of a shop, the latest first, instead of the rows of the source. */
  eventsOf: string | null;
  /** Words that a row holds somewhere. */
  q: string;
  /** A formula over the row that is to hold; blank asks for all. */
  filter: string;
  sort: string | null;
  descending: boolean;
  /** ISO 8601; what `now` is in the formula. */
  now: string;
}

/** What asking rows reads. */
export interface RowParts {
  entries: Pick<EntriesRepository, 'inOrder' | 'records'>;
  events: Pick<EventsRepository, 'latestFirst'>;
}

/** The ids of the rows that fit, in their order. The formula is known to parse. */
export function selectRows({ entries, events }: RowParts, query: RowQuery): number[] {
  const { source, eventsOf, q, filter, sort, descending, now } = query;
  const wanted = q.trim().toLowerCase();
  const parsed = filter.trim() === '' ? null : parse(filter);
  const holds = parsed?.ok ? compile(parsed.value) : null;
  const asOf = new Date(now);
  const rows = eventsOf === null ? entries.inOrder(source) : events.latestFirst(eventsOf);
  const found: { id: number; by: Value }[] = [];
  for (const { id, record } of rows) {
    if (wanted !== '' && !record.toLowerCase().includes(wanted)) continue;
    if (!holds && sort === null) {
      found.push({ id, by: undefined });
      continue;
    }
    const fields = reviveRecord(JSON.parse(record)) as Fields;
    if (holds) {
      const context = contextFor(fields, { asOf });
      if (evaluate(holds, context) !== true) continue;
    }
    found.push({ id, by: sort === null ? undefined : valueAt(fields, sort) });
  }
  if (sort === null) return found.map(({ id }) => id);
  const blank = found.filter(({ by }) => isBlank(by));
  const filled = found.filter(({ by }) => !isBlank(by)).sort((a, b) => inSequence(a.by, b.by));
  if (descending) filled.reverse();
  return [...filled, ...blank].map(({ id }) => id);
}

const words = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const figure = (value: Value) =>
  value instanceof Date ? value.getTime() : Array.isArray(value) ? value.length : Number(value);

/** Texts as words, everything else by size; lists by their length. */
function inSequence(a: Value, b: Value): number {
  if (typeof a === 'string' && typeof b === 'string') return words.compare(a, b);
  return figure(a) - figure(b);
}

function valueAt(fields: Fields, name: string): Value {
  return Object.hasOwn(fields, name) ? (fields[name] as Value) : undefined;
}

/** What the rows of a source hold, field by field. */
export function profileRows(
  { entries }: Pick<RowParts, 'entries'>,
  source: string,
): FieldProfile[] {
  const builder = new ProfileBuilder();
  for (const record of entries.records(source)) builder.add(JSON.parse(record) as object);
  return builder.fields();
}
