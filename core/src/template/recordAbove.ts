import type { ShopSources } from '../blocks/define';
import { walkNodes } from './nodes';
import type { Template } from './schema';

const LIST = /^(cart|order)\.lines\b/;

/**
 * Whether what stands at a place is about a cart or an order: that of the nearest list of lines above, else the one that the
 * template speaks of. So a total stands under the lines that it adds up. `after` is the id of the node above; null for the end.
 */
export function recordAbove(
  template: Pick<Template, 'sections'>,
  after: string | null,
): NonNullable<ShopSources['record']> {
  let found: 'cart' | 'order' | null = null;
  walkNodes(template, ({ node }) => {
    const items = node.kind === 'lines' ? node.items.list : node.loop?.list;
    const record = LIST.exec(items ?? '')?.[1];
    if (record === 'cart' || record === 'order') found = record;
    return node.id !== after;
  });
  if (found !== null) return found;
  const said = JSON.stringify(template.sections);
  return /\border\./.test(said) && !/\bcart\./.test(said) ? 'order' : 'cart';
}
