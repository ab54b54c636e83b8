import { named, offered, offeringNode, priceOf } from '../offered';
import { defineCheck, products } from '../define';

export const priceHigher = defineCheck({
  name: 'price_higher',
  label: 'No price is higher than the one before',
  find(context) {
    const found = offered(
      context,
      (product) =>
        (priceOf(product) ?? 0) > (priceOf(product, 'was_price') ?? Number.POSITIVE_INFINITY),
    );
    const [first] = found;
    if (!first) return [];
    return [
      {
        ...{ severity: 'error' as const, ...offeringNode(context), person: first.person },
        people: Math.max(...found.map(({ people }) => people)),
        message: `${products(found.length)} that emails offer at a price higher than the one that is struck out: ${named(found)}.`,
      },
    ];
  },
});
