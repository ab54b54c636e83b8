import {
  fieldsAt,
  type BlockDefinition,
  type LineField,
  type RichField,
} from '@carafe/core/blocks';
import { BLOCKS, isBlock, type TemplateNode } from '@carafe/core/template';

/** The field of a node whose words are edited where they stand in the mail. */
export function inPlaceField(node: TemplateNode | undefined): LineField | RichField | undefined {
  if (!node || !isBlock(node)) return undefined;
  const kind = BLOCKS[node.kind] as BlockDefinition<string, never>;
  return kind.fields.find(
    (field): field is LineField | RichField => 'inPlace' in field && field.inPlace !== undefined,
  );
}

/** The words at a path of a node, where they can be edited as one line. */
export function editableAt(node: TemplateNode, path: string) {
  if (!isBlock(node)) return null;
  const kind = BLOCKS[node.kind] as BlockDefinition<string, never>;
  const found = fieldsAt(node, kind.fields).find((one) => one.path === path);
  return found?.field.control === 'line' && found.field.holds === 'text' ? found : null;
}
