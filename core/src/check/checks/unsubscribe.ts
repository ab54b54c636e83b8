import { factFound } from '../ask';
import { pathsRead } from '../paths';
import { defineCheck } from '../define';

/** Whether a template speaks of an order: such a mail is no advertising. */
export const isService = (sites: Parameters<typeof pathsRead>[0]): boolean =>
  [...pathsRead(sites)].some((path) => path === 'order' || path.startsWith('order.'));

export const unsubscribe = defineCheck({
  name: 'unsubscribe',
  label: 'Marketing has an unsubscribe link',
  find(context) {
    const { sites, sentAs, template } = context;
    const marketing = sentAs ? sentAs === 'marketing' : !isService(sites);
    const has =
      sites.some(({ source }) => source.includes('links.unsubscribe')) ||
      JSON.stringify(template).includes('"unsubscribe":"');
    if (!marketing) return [];
    // What stands in a condition or in a list may reach few.
    if (has)
      return factFound(context, 'no_unsubscribe', {
        ...{ severity: 'error', path: 'unsubscribe' },
        say: (whom) =>
          `The email of ${whom} has no unsubscribe link: it is in a part that they do not see. Marketing needs one in every email.`,
      });
    return [
      {
        ...{ severity: 'error' as const, node: '', path: 'unsubscribe' },
        message: 'This email has no unsubscribe link. Marketing needs one: add “Footer”.',
        repair: { label: 'Add “Footer”', add: 'foot' as const },
      },
    ];
  },
});
