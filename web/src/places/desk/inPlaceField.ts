import type { BlockDefinition, NodeField } from '@carafe/core/blocks';
import { BLOCKS, isBlock, type TemplateNode } from '@carafe/core/template';

/** The field of a node whose words are edited where they stand in the mail. */
export function inPlaceField(node: TemplateNode | undefined): NodeField | undefined {
  if (!node || !isBlock(node)) return undefined;
  const kind = BLOCKS[node.kind] as BlockDefinition<string, never>;
  return kind.fields.find((field) => 'inPlace' in field && field.inPlace);
}
