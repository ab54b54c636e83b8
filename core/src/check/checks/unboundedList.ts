import { findNode, itemsOf } from '../../template/nodes';
import { nameOf, outcomes } from '../ask';
import { defineCheck, type Found } from '../define';

export const unboundedList = defineCheck({
  name: 'unbounded_list',
  label: 'Long lists have a bound',
  find: (context) =>
    outcomes(context, 'list', 'many').flatMap(({ decision, people, person }): Found[] => {
      const { node, path, formula } = decision;
      const found = findNode(context.template, node)?.node;
      const loop = found && (path === 'loop' ? found.loop : itemsOf(found));
      if (people === 0 || !loop || loop.at_most !== undefined) return [];
      const shared = /\b(?:catalog|feeds)\b/.test(formula);
      return [
        {
          ...{ severity: shared ? 'warning' : 'hint', node, path, people },
          message: `“${nameOf(context.template, node)}” repeats without a bound, and shows 7 or more to some. Say how many at most.`,
          ...(person !== null && { person }),
          repair: { label: 'At most 12', put: { node, path: `${path}.at_most`, value: 12 } },
        },
      ];
    }),
});
