import { pathsRead } from '../paths';
import { positions, wordsOfNode } from '../ask';
import { defineCheck } from '../define';
import { isService } from './unsubscribe';

/** A street with a number, or a post code, somewhere in words. */
const STREET =
  /\b\d{1,5}\s+\p{L}{3,}|\p{L}{3,}\s+\d{1,5}\b|\b[A-Z]{1,2}\d{1,2}[A-Z]?\s*\d[A-Z]{2}\b/u;

export const postalAddress = defineCheck({
  name: 'postal_address',
  label: 'Marketing says where the shop is',
  find({ sites, sentAs, template }) {
    const marketing = sentAs ? sentAs === 'marketing' : !isService(sites);
    if (!marketing) return [];
    const all = positions(template);
    const has =
      pathsRead(sites).has('shop.address') ||
      all.some(({ node }) => node.kind === 'foot') ||
      all.slice(-8).some(({ node }) => wordsOfNode(node).some((words) => STREET.test(words)));
    return has
      ? []
      : [
          {
            ...{ severity: 'warning' as const, node: '', path: 'address' },
            message:
              'This mail does not say where the shop is. In many countries marketing must: add “Address and foot”.',
            repair: { label: 'Add “Address and foot”', add: 'foot' as const },
          },
        ];
  },
});
