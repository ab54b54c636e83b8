import { kindOf, type TemplateNode } from '@carafe/core/template';

/** A node in a few of its own words. */
export function labelOf(node: TemplateNode): string {
  return kindOf(node).label(node as never);
}
