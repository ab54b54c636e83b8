import { isChanged, type CardChange } from '../../blocks/cardFields';
import { fieldOf } from '../../formula';
import { MOST_PRODUCTS } from '../../variant';
import { nameOf, positions } from '../ask';
import { defineCheck, type Found } from '../define';

export const changeUnseen = defineCheck({
  name: 'change_unseen',
  label: 'Every product changed for this email is shown to somebody',
  find({ template, survey, products }) {
    // Beyond that, whoever was shown is not known of every product.
    if (!survey || survey.people === 0 || Object.keys(survey.products).length >= MOST_PRODUCTS)
      return [];
    return positions(template).flatMap(({ node }): Found[] => {
      const { changes = [] } = node as { changes?: CardChange[] };
      const isSeen = ({ sku }: CardChange) => Object.hasOwn(survey.products, sku);
      const unseen = changes.filter((change) => isChanged(change) && !isSeen(change));
      if (unseen.length === 0) return [];
      const names = unseen.map(({ sku }) => {
        const product = products.get(sku);
        return `“${product ? String(fieldOf(product, 'name') ?? sku) : sku}”`;
      });
      const left = changes.filter((change) => !unseen.includes(change));
      return [
        {
          ...{ severity: 'hint', node: node.id, path: 'changes' },
          message: `“${nameOf(template, node.id)}” changes ${names.join(', ')} for this email, and shows ${unseen.length === 1 ? 'it' : 'them'} to nobody.`,
          repair: {
            label: unseen.length === 1 ? 'Take the change away' : 'Take the changes away',
            put: { node: node.id, path: 'changes', value: left.length > 0 ? left : undefined },
          },
        },
      ];
    });
  },
});
