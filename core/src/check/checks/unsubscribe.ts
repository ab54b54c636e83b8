import { pathsRead } from '../paths';
import { defineCheck } from '../define';

/** Whether a template speaks of an order: such a mail is no advertising. */
export const isService = (sites: Parameters<typeof pathsRead>[0]): boolean =>
  [...pathsRead(sites)].some((path) => path === 'order' || path.startsWith('order.'));

export const unsubscribe = defineCheck({
  name: 'unsubscribe',
  label: 'Marketing has an unsubscribe link',
  find({ sites, sentAs, template }) {
    const marketing = sentAs ? sentAs === 'marketing' : !isService(sites);
    const has =
      sites.some(({ source }) => source.includes('links.unsubscribe')) ||
      JSON.stringify(template).includes('"unsubscribe":"');
    if (!marketing || has) return [];
    return [
      {
        ...{ severity: 'error' as const, node: '', path: 'unsubscribe' },
        message: 'This mail has no unsubscribe link. Marketing needs one: add “Address and foot”.',
        repair: { label: 'Add “Address and foot”', add: 'foot' as const },
      },
    ];
  },
});
