import type { FieldPath } from '@carafe/core/shape';

/** How a field is printed when it is first put in. */
export function firstFormula({ path, field }: FieldPath): string {
  if (field.shape.kind === 'date') return `date(${path})`;
  const money = /(?:price|total|subtotal|amount|shipping|discount)$/.test(path);
  return field.shape.kind === 'number' && money ? `money(${path})` : path;
}
