import { nameOf, positions } from '../ask';
import { defineCheck } from '../define';
import type { TemplateNode } from '../../template/schema';

/** What a block is missing without which it says nothing, with where that is written; null where it has all. */
function missing(node: TemplateNode): { path: string; what: string } | null {
  const isBlank = (text: string) => text.trim() === '';
  if (node.kind === 'heading' && isBlank(node.text)) return { path: 'text', what: 'no words' };
  if (node.kind === 'button' && isBlank(node.label)) return { path: 'label', what: 'no label' };
  if (node.kind === 'coupon') {
    if (isBlank(node.code)) return { path: 'code', what: 'no code' };
    if (isBlank(node.value)) return { path: 'value', what: 'no words for what it is worth' };
  }
  return null;
}

export const emptyBlock = defineCheck({
  name: 'empty_block',
  label: 'No heading, button or coupon is empty',
  find: ({ template }) =>
    positions(template).flatMap(({ node }) => {
      const lack = missing(node);
      return lack === null
        ? []
        : [
            {
              ...{ severity: 'warning' as const, node: node.id, path: lack.path },
              message: `“${nameOf(template, node.id)}” has ${lack.what}: people see an empty place. Write it, or delete the block.`,
              repair: { label: 'Delete the block', take: node.id },
            },
          ];
    }),
});
