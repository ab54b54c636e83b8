import { named, offered, offeringNode, priceOf } from '../offered';
import { defineCheck, products } from '../define';

export const priceMissing = defineCheck({
  name: 'price_missing',
  label: 'Products have a price',
  find(context) {
    const found = offered(context, (product) => (priceOf(product) ?? 0) <= 0);
    const [first] = found;
    if (!first) return [];
    return [
      {
        ...{ severity: 'error' as const, ...offeringNode(context), person: first.person },
        people: Math.max(...found.map(({ people }) => people)),
        message: `${products(found.length)} that mails offer without a price, or at nothing: ${named(found)}.`,
      },
    ];
  },
});
