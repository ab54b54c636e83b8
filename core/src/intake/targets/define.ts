import type { CellKind } from '../../formats/cells';

/** A field that formulas know by name, with the names that files give it. */
export interface TargetField {
  name: string;
  label: string;
  kind: CellKind;
  required?: boolean;
  /** Other names in files, folded: lower case, letters and digits only. */
  alike: string;
}

export type Fields = Record<string, unknown>;
/** What is wrong with a record as a whole. */
export interface RecordProblem {
  field: string;
  message: string;
}

/** All that is known of one kind of data that a source can feed. */
export interface TargetDefinition {
  /** As a designer names it. */
  label: string;
  /** One of its rows, and many. */
  one: string;
  many: string;
  /** One sentence on what it is. */
  description: string;
  /** The name that a new source of this kind gets in formulas. */
  usualName: string;
  /** The field that tells rows apart. */
  key: string;
  fields: TargetField[];
  /** The fields of a line, where rows hold lines. */
  line?: TargetField[];
  /** What it feeds: people (their carts and orders too), what all share, or nothing that is read yet. */
  feeds: 'people' | 'shared' | 'nothing';
  /** Rows are somebody's, by their email address. */
  isOwned: boolean;
  /** A file holds all there is, or is put to what is there. */
  mode: 'whole' | 'part';
  /** Formulas tell several of one shop apart by their names. */
  isNamed: boolean;
  /** How formulas reach it, for reading; null where they do not. */
  formula(name: string): string | null;
  /** The paths in formulas that lead to it, by the name of the source. */
  paths(name: string): string[][];
  /** A filter of its rows, for an example. */
  exampleFilter: string;
  /** Completes a record in place; says what is wrong where it cannot be taken. */
  finish?(record: Fields): RecordProblem | null;
}

/** Short way to write a field. */
export const field = (
  name: string,
  label: string,
  kind: CellKind = 'text',
  alike = '',
  required = false,
): TargetField => ({ name, label, kind, alike, ...(required && { required }) });

const ADDRESS = /^[^\s@]+@[^\s@]+\.[^\s@.]+$/;

/** Puts the email address in its usual form, or says that it is none. */
export function finishEmail(record: Fields): RecordProblem | null {
  const email = String(record['email'] as string).trim();
  if (!ADDRESS.test(email))
    return { field: 'email', message: `“${email}” is not an email address.` };
  record['email'] = email;
  return null;
}
