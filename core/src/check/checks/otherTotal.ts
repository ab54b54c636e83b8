import { recordAbove } from '../../template/recordAbove';
import { nameOf, positions } from '../ask';
import { defineCheck, type Found } from '../define';

const AMOUNT = /^\s*(cart|order)\.(\w+)\s*$/;

/** A total of the cart under the lines of an order is a sum of something else. */
export const otherTotal = defineCheck({
  name: 'other_total',
  label: 'Totals add up the lines above them',
  find: ({ template }) =>
    positions(template).flatMap(({ node }): Found[] => {
      if (node.kind !== 'totals') return [];
      const record = recordAbove(template, node.id);
      return node.rows.flatMap(({ amount }, i): Found[] => {
        const [, owner, field = ''] = AMOUNT.exec(amount) ?? [];
        if (owner === undefined || owner === record) return [];
        const meant = `${record}.${field}`;
        const path = `rows.${i}.amount`;
        return [
          {
            ...{ severity: 'warning', node: node.id, path },
            message: `“${nameOf(template, node.id)}” shows ${amount.trim()} under the lines of the ${record}: that is another sum.`,
            repair: { label: `Use ${meant}`, put: { node: node.id, path, value: meant } },
          },
        ];
      });
    }),
});
