import { nameOf, outcomes } from '../ask';
import { named, offered, offeringNode, priceOf } from '../offered';
import { defineCheck, ofPeople, products, type Found } from '../define';

export const priceMissing = defineCheck({
  name: 'price_missing',
  label: 'Products have a price',
  find(context) {
    const found = offered(context, (product) => (priceOf(product) ?? 0) <= 0);
    const [first] = found;
    // What a card shows as its price may be another field than the price.
    const blank = outcomes(context, 'value', 'blank')
      .filter(({ decision: { path }, people }) => people > 0 && /^fields\.\d+\.price$/.test(path))
      .map(({ decision: { node, path }, people, person, asked }): Found => ({
        ...{ severity: 'warning', node, path, people },
        message: `“${nameOf(context.template, node)}” shows products without a price to ${ofPeople(people, asked)} who get to it: what it shows as their price is blank.`,
        ...(person !== null && { person }),
      }));
    if (!first) return blank;
    return [
      {
        ...{ severity: 'error' as const, ...offeringNode(context), person: first.person },
        people: Math.max(...found.map(({ people }) => people)),
        message: `${products(found.length)} that emails offer without a price, or at nothing: ${named(found)}.`,
      },
    ];
  },
});
