import { parse, parseRunning, walk, type Node } from '../formula';
import type { Template } from '../template';
import { walkSlots } from '../template/slots';

/** The parts of a record that a template can read, in the order in which they are named. */
export const DATA_KINDS = [
  'person',
  'cart',
  'order',
  'catalog',
  'feeds',
  'picks',
  'coupon',
  'event',
] as const;
export type DataKind = (typeof DATA_KINDS)[number];

/** The names that the paths of a template begin with. */
export function rootsOf(template: Template): Set<string> {
  const roots = new Set<string>();
  const add = (node: Node) =>
    walk(node, (inside) => {
      if (inside.type === 'name') roots.add(inside.name);
    });
  walkSlots(template, (slot) => {
    if (slot.form === 'formula') {
      const parsed = parse(slot.source);
      if (parsed.ok) add(parsed.value);
      return;
    }
    const parsed = parseRunning(slot.source);
    if (parsed.ok) for (const s of parsed.value) if (s.type === 'tag') add(s.node);
  });
  return roots;
}

/** What data a template reads: "cart", "catalog", … */
export function dataRead(template: Template): DataKind[] {
  const roots = rootsOf(template);
  return DATA_KINDS.filter((kind) => roots.has(kind));
}
