import { addressIn } from '../../variant/legal';
import { factFound, positions } from '../ask';
import { defineCheck } from '../define';
import { isService } from './unsubscribe';

export const postalAddress = defineCheck({
  name: 'postal_address',
  label: 'Marketing says where the shop is',
  find(context) {
    const { sites, sentAs, template } = context;
    const marketing = sentAs ? sentAs === 'marketing' : !isService(sites);
    if (!marketing) return [];
    const has = positions(template).some(({ node }) => addressIn(node) !== null);
    if (has)
      return factFound(context, 'no_postal_address', {
        ...{ severity: 'warning', path: 'address' },
        say: (whom) =>
          `The email of ${whom} does not say where the shop is: the shop has no address, or it is in a part that they do not see.`,
      });
    return [
      {
        ...{ severity: 'warning' as const, node: '', path: 'address' },
        message:
          'This email does not say where the shop is. In many countries marketing must: add “Footer”.',
        repair: { label: 'Add “Footer”', add: 'foot' as const },
      },
    ];
  },
});
