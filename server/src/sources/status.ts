import type { SourceStatus, SourceSummary } from '@carafe/contract';
import type { Source } from './repository';

const HOUR = 3_600_000;

/** How a source stands now. */
export function statusOf(source: Source, waiting: string | null, now: Date): SourceStatus {
  const { last_import_at, failed_at, fresh_hours } = source;
  if (failed_at !== null) return 'failed';
  if (waiting !== null) return 'waiting';
  if (last_import_at === null) return 'never';
  return now.getTime() - Date.parse(last_import_at) > fresh_hours * HOUR ? 'stale' : 'fresh';
}

/** A source as it is listed; `waiting` is the import that waits for a decision. */
export function summaryOf(source: Source, waiting: string | null, now: Date): SourceSummary {
  const { id, shop, name, kind, target, formula_name, address, every_minutes, fresh_hours } =
    source;
  return {
    ...{ id, shop, name, kind, target, formula_name, address, every_minutes, fresh_hours },
    status: statusOf(source, waiting, now),
    rows: source.row_count,
    last_import_at: source.last_import_at,
    next_fetch_at: source.next_fetch_at,
    failure: source.failure,
    waiting_import: waiting,
    settings: source.settings,
  };
}
