/** The type of a value. A record knows its fields, a list the shape of its members. */
export type Shape =
  | { kind: 'text' | 'number' | 'boolean' | 'date' | 'any' }
  | { kind: 'list'; of: Shape }
  | { kind: 'record'; fields: Record<string, Field> };

/** A field with how often it is filled: `filled` of `of` records, and a few samples as text. */
export interface Field {
  shape: Shape;
  filled: number;
  of: number;
  samples: string[];
  /** Every value of a text, or of the texts of a list, where there are few; left out where the samples are all. */
  values?: string[];
  /** Of a list: how many members it has usually, and at most. */
  length?: { usual: number; most: number };
  /** What it is called where that is not told by its path: somebody gave it a name. */
  label?: string;
}

export const ANY: Shape = { kind: 'any' };
export const TEXT: Shape = { kind: 'text' };
export const NUMBER: Shape = { kind: 'number' };
export const BOOLEAN: Shape = { kind: 'boolean' };
export const DATE: Shape = { kind: 'date' };

/** What formulas inside a loop of the mail know of where they stand: `loop.first`. */
export const LOOP: Shape = {
  kind: 'record',
  fields: Object.fromEntries(
    Object.entries({
      position: NUMBER,
      count: NUMBER,
      first: BOOLEAN,
      last: BOOLEAN,
      odd: BOOLEAN,
    }).map(([name, shape]): [string, Field] => [name, { shape, filled: 1, of: 1, samples: [] }]),
  ),
};

export function fieldNamed(shape: Shape, name: string): Field | undefined {
  return shape.kind === 'record' && Object.hasOwn(shape.fields, name)
    ? shape.fields[name]
    : undefined;
}

/** The shape of what a loop over this sees: a list's members; a record counts as a list of one. */
export function memberShape(shape: Shape): Shape {
  if (shape.kind === 'list') return shape.of;
  return shape.kind === 'record' ? shape : ANY;
}

/** How a shape is named to a designer. */
export function kindName(shape: Shape): string {
  switch (shape.kind) {
    case 'any':
      return 'anything';
    case 'boolean':
      return 'yes or no';
    default:
      return shape.kind;
  }
}
