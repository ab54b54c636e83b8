import { fieldOf } from '../../formula';
import { named, offered, offeringNode } from '../offered';
import { defineCheck, products } from '../define';

export const outOfStock = defineCheck({
  name: 'out_of_stock',
  label: 'Nothing is offered that is out of stock',
  find(context) {
    const found = offered(context, (product) => fieldOf(product, 'in_stock') === false);
    const [first] = found;
    if (!first) return [];
    return [
      {
        ...{ severity: 'warning' as const, ...offeringNode(context), person: first.person },
        people: Math.max(...found.map(({ people }) => people)),
        message: `${products(found.length)} that mails offer and that are out of stock: ${named(found)}.`,
      },
    ];
  },
});
