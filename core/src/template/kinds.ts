import { BLOCKS } from '../blocks';
import type { NodeKind } from '../blocks/define';
import { column, section } from './structure';

/** What is said of a node’s kind, whatever it is. */
export function kindOf(node: { kind: string }): NodeKind {
  const kinds: Record<string, NodeKind> = {
    ...(BLOCKS as Record<string, unknown>),
    section,
    column,
  } as never;
  const found = kinds[node.kind];
  if (!found) throw new Error(`There is no kind of node “${node.kind}”.`);
  return found;
}
