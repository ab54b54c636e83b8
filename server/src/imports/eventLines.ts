import { FormatError, readNdjsonLine } from '@carafe/core/formats';
import { readEvent, type EventKind, type ShopEvent } from '@carafe/core/record';
import { numberOf } from '../events/repository';
import { linesOf } from './fileRows';
import type { CheckTask } from './task';
import { unfold, unfoldedRecords } from './unfold';

/** An event of a file as it is staged: its text, and what is asked of it beside. Plain data. */
export interface StagedEvent {
  line: number;
  shop: string;
  id: string;
  at: string;
  kind: EventKind;
  email: string | undefined;
  visitor: string | undefined;
  number: string | null;
  currency: string | undefined;
  /** An order that leaves it to the cart what was ordered. */
  unsaid: boolean;
  text: string;
  wrong?: undefined;
}

/** A line that is no event, with its beginning. */
export interface NoEvent {
  line: number;
  wrong: string;
  text: string | undefined;
}

export type ReadTask = Pick<CheckTask, 'file' | 'settings'>;

/** How events of a file are read: here, or in threads beside. */
export type ReadEvents = (task: ReadTask) => AsyncGenerator<(StagedEvent | NoEvent)[]>;

/** Every n-th batch of lines: of several threads that read one file, each has its own. */
export interface Share {
  of: number;
  which: number;
}
const ALL: Share = { of: 1, which: 0 };

export function stagedEvent(line: number, event: ShopEvent): StagedEvent {
  // One plain literal: this is done for each line of a large file.
  return {
    line,
    shop: event.shop,
    id: event.id,
    at: event.at,
    kind: event.kind,
    email: event.email,
    visitor: event.visitor,
    number: numberOf(event),
    currency: 'currency' in event ? event.currency : undefined,
    unsaid: event.kind === 'order_placed' && !(event.lines && event.currency),
    text: JSON.stringify(event),
  };
}

/** As much of a line that is refused as is shown. */
const begins = (value: unknown) => JSON.stringify(value)?.slice(0, 500);

function eventOf(line: number, value: unknown): StagedEvent | NoEvent {
  const read = readEvent(value);
  return read.ok
    ? stagedEvent(line, read.event)
    : { line, wrong: read.message, text: begins(value) };
}

/** The events of a file, in batches, or those of a share. Throws a FormatError where it is none of events. */
export async function* eventLines(
  { file, settings }: ReadTask,
  { of, which }: Share = ALL,
): ReturnType<ReadEvents> {
  if (settings.format === 'ndjson') {
    let batch = 0;
    for await (const lines of linesOf(file, settings.encoding))
      if (batch++ % of === which)
        yield lines.flatMap(({ line, text }) => {
          const read = readNdjsonLine(text, line);
          if (read === null) return [];
          return [
            read.ok ? eventOf(line, read.value) : { line, wrong: read.message, text: begins(text) },
          ];
        });
    return;
  }
  if (settings.format !== 'json')
    throw new FormatError('Send events as NDJSON, one per line, or as a JSON list.');
  unfold(file, { ...settings, format: 'json' }, 'events');
  let line = 0;
  for await (const records of unfoldedRecords(file))
    yield records.map((value) => eventOf(++line, value));
}
