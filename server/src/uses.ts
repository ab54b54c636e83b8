import type { SourceTarget } from '@carafe/contract';
import { fieldsRead } from '@carafe/core/check';
import type { Template } from '@carafe/core/template';
import type { Store } from './db';
import type { Source } from './db/sources';

/** How the paths of a formula reach what a source feeds. */
function prefixesOf(target: SourceTarget, slot: string): string[][] {
  switch (target) {
    case 'catalog':
      return [
        ['catalog', slot],
        ['cart', 'lines', 'product'],
        ['order', 'lines', 'product'],
      ];
    case 'people':
      return [['person']];
    case 'carts':
      return [['cart']];
    case 'orders':
      return [['order']];
    case 'events':
      return [['cart'], ['order'], ['person']];
    case 'feed':
      return [['feeds', slot]];
    case 'coupons':
      return [['coupon']];
    case 'notes':
      return [];
  }
}

/** The templates that read what a source feeds, with the fields that each names. */
export function usesOf(
  store: Store,
  source: Source,
): { id: string; name: string; fields: string[] }[] {
  const prefixes = prefixesOf(source.target, source.slot);
  return store.templates.list().flatMap(({ id, template: stored }) => {
    const template = stored as Template;
    if (source.shop !== null && template.shop !== source.shop) return [];
    const fields = fieldsRead(template, prefixes);
    return fields === null ? [] : [{ id, name: template.name, fields }];
  });
}
