import { fieldNamed, LOOP, memberShape, type Field, type Shape } from './shape';

/** A field as it is written in a formula, for choosing from a list. */
export interface FieldPath {
  path: string;
  field: Field;
  /** What it is called where that is not told by its path. */
  label?: string;
  /** What it belongs to, for grouping: `person`, `cart`, or the name of a loop's member. */
  group: string;
}

const MAX_DEPTH = 4;
const NAME = /^[\p{L}_][\p{L}\p{Nd}_]*$/u;

function below(prefix: string, group: string, shape: Shape, depth: number, out: FieldPath[]): void {
  if (shape.kind !== 'record' || depth > MAX_DEPTH) return;
  for (const [name, field] of Object.entries(shape.fields)) {
    const path = NAME.test(name) ? `${prefix}.${name}` : `${prefix}["${name}"]`;
    if (field.shape.kind === 'record') below(path, group, field.shape, depth + 1, out);
    else out.push({ path, field, group, ...(field.label !== undefined && { label: field.label }) });
  }
}

/** The field at a path, `order.status`; through lists to what their members have, `cart.lines.category`. */
export function fieldAt(shape: Shape, path: string): Field | undefined {
  const [name = '', ...rest] = path.split('.');
  const found = fieldNamed(memberShape(shape), name);
  return found && rest.length > 0 ? fieldAt(found.shape, rest.join('.')) : found;
}

/** Every field that can be named at a place: members of the loops around it first, then the record's. */
export function fieldPaths(
  shape: Shape,
  frames: readonly { shape: Shape; as: string | null }[] = [],
): FieldPath[] {
  const out: FieldPath[] = [];
  for (const frame of [...frames].reverse())
    if (frame.as !== null) below(frame.as, frame.as, memberShape(frame.shape), 1, out);
  if (frames.length > 0) below('loop', 'loop', LOOP, 1, out);
  if (shape.kind !== 'record') return out;
  for (const [name, field] of Object.entries(shape.fields)) {
    if (field.shape.kind === 'record') below(name, name, field.shape, 1, out);
    else out.push({ path: name, field, group: name });
  }
  return out;
}
