import type { ScopeFrame } from '@carafe/core/formula';
import { canBeField, type ClauseKind } from '@carafe/core/sentence';
import { fieldPaths, singleValues, type FieldPath, type Shape } from '@carafe/core/shape';

/** What can be the field of a clause: every field, and of lists how many they have. */
export function clauseFields(path: FieldPath): FieldPath[] {
  const { kind } = path.field.shape;
  if (kind !== 'list') return kind === 'record' ? [] : [path];
  return [path, ...singleValues(path).filter((one) => canBeField(one.path))];
}

export function fieldChoices(shape: Shape, frames: readonly ScopeFrame[]): FieldPath[] {
  return fieldPaths(shape, frames).flatMap(clauseFields);
}

/** The kind of a field, as comparisons know it; anything goes for what is not known. */
export function kindOf(choices: readonly FieldPath[], path: string): ClauseKind {
  if (path.startsWith('length(')) return 'number';
  // Inside a loop a member's field may be named without the member: `in_stock` of `product.in_stock`.
  const found =
    choices.find((one) => one.path === path) ??
    choices.find((one) => one.path.endsWith(`.${path}`));
  const kind = found?.field.shape.kind;
  return kind === undefined || kind === 'record' ? 'any' : kind;
}
