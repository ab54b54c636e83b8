import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { FormatError } from '@carafe/core/formats';
import {
  lookAt,
  lookAtRecords,
  targetOf,
  wholeFormatOf,
  type GivenSettings,
  type Look,
  type Target,
} from '@carafe/core/intake';
import type { LookTask } from './task';
import { unfold, unfoldedRecords } from './unfold';

const BEGINNING = 1_000_000;

function beginningOf(file: string): Buffer {
  const buffer = Buffer.alloc(Math.min(BEGINNING, statSync(file).size));
  const handle = openSync(file, 'r');
  try {
    readSync(handle, buffer, 0, buffer.length, 0);
  } finally {
    closeSync(handle);
  }
  return buffer;
}

/** Looks at the beginning of a file, or all of it where its format asks for that. */
export async function lookAtFile(
  file: string,
  target: Target,
  given: GivenSettings = {},
): Promise<Look> {
  const beginning = beginningOf(file);
  const whole = beginning.length === 0 ? null : wholeFormatOf(beginning, given);
  if (!whole) return lookAt(beginning, target, given, statSync(file).size <= beginning.length);
  const { pointer, lists, columns } = unfold(file, { ...whole, pointer: given.pointer }, target.id);
  const { value: records } = await unfoldedRecords(file).next();
  return lookAtRecords(
    { ...whole, pointer, lists, columns, records: records ?? [] },
    target,
    given,
  );
}

/** What of a look is shown. */
const SHOWN_ROWS = 200;

/**
 * Looks at a file by what is set. The next file of a source is written as the last one was; where it
 * is not, that is found out. Throws a FormatError.
 */
export async function lookForImport({
  file,
  target: id,
  settings,
  isSet,
}: LookTask): Promise<Look> {
  const look = await lookWith(file, targetOf(id), settings, isSet);
  return { ...look, rows: look.rows.slice(0, SHOWN_ROWS) };
}

async function lookWith(
  file: string,
  target: Target,
  settings: GivenSettings,
  isSet: boolean,
): Promise<Look> {
  if (isSet) return lookAtFile(file, target, settings);
  const { encoding: _anew, ...kept } = settings;
  const { mapping, consented_only } = kept;
  const known = mapping?.columns.map((c) => c.column) ?? [];
  try {
    const look = await lookAtFile(file, target, kept);
    if (known.length === 0 || known.some((column) => look.columns.includes(column))) return look;
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
  }
  return lookAtFile(file, target, {
    ...(mapping && { mapping }),
    ...(consented_only !== undefined && { consented_only }),
  });
}
