import { accessSync, constants, createReadStream, readFileSync, statSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { readNdjsonLine } from '@carafe/core/formats';
import { isRecord, readDate, type Fields } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import { readTemplateText, type Template } from '@carafe/core/template';
import { counted } from '@carafe/core/words';
import { UsageError } from './usageError';

/** What is given on the command line is read here, and told plainly where it cannot be. */

/** So many lines that are no records are told one by one. */
const MOST_TOLD = 20;

function refuseUnread(path: string): void {
  const stats = statSync(path, { throwIfNoEntry: false });
  if (!stats) throw new UsageError(`There is no file ${path}.`);
  if (stats.isDirectory()) throw new UsageError(`${path} is a folder; name a file in it.`);
  try {
    accessSync(path, constants.R_OK);
  } catch {
    throw new UsageError(`${path} cannot be read: this user is not allowed to.`);
  }
}

/** The template in a file: by itself, or as `GET /api/templates/{id}` answers it. */
export function templateIn(path: string): Template {
  refuseUnread(path);
  const read = readTemplateText(unwrapped(readFileSync(path, 'utf8')));
  if (!read.ok)
    throw new UsageError(
      read.problems.map((p) => `${path}: ${p.path ? `${p.path}: ` : ''}${p.message}`).join('\n'),
    );
  return read.template;
}

/** What the API answers of a template has it inside. */
function unwrapped(text: string): string {
  try {
    const given = JSON.parse(text) as { template?: unknown; format?: unknown };
    const isAnswer = typeof given.template === 'object' && given.format === undefined;
    return isAnswer ? JSON.stringify(given.template) : text;
  } catch {
    return text; // what is no JSON is told by whoever reads it
  }
}

/** The day that was given, now where none was. */
export function dayGiven(day: string | undefined): Date {
  const asOf = day === undefined ? new Date() : readDate(day);
  if (!asOf)
    throw new UsageError(`--as-of must be an ISO date such as 2026-03-31, not “${day ?? ''}”.`);
  return asOf;
}

/** The lines of a file; `-` is standard input. */
export async function* linesIn(path: string): AsyncGenerator<string> {
  if (path !== '-') refuseUnread(path);
  const input = path === '-' ? process.stdin : createReadStream(path, 'utf8');
  yield* createInterface({ input, crlfDelay: Number.POSITIVE_INFINITY });
}

/** The records of an NDJSON file, one a line, and which lines are none. */
export class RecordsIn {
  /** Lines that are no records. */
  failed = 0;

  constructor(private readonly path: string) {}

  private tell(message: string): void {
    if (++this.failed <= MOST_TOLD) console.error(message);
  }

  /** Says what is wrong with a line that was read. */
  refuse(line: number, why: string): void {
    this.tell(`Line ${line}: ${why}`);
  }

  async *read(): AsyncGenerator<{ line: number; record: Fields }> {
    let line = 0;
    for await (const text of linesIn(this.path)) {
      const read = readNdjsonLine(text, ++line);
      if (read === null) continue;
      const record = read.ok ? reviveRecord(read.value) : null;
      if (!read.ok) this.tell(read.message);
      else if (!isRecord(record)) this.tell(`Line ${line} is not a record.`);
      else yield { line, record };
    }
    if (this.failed > MOST_TOLD)
      console.error(`… and ${counted(this.failed - MOST_TOLD, 'line')} more.`);
  }
}
