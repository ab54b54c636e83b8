import { findNode, itemsOf } from '../../template/nodes';
import { topicOf } from '../../variant';
import { nameOf, outcomes } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';

export const emptyList = defineCheck({
  name: 'empty_list',
  label: 'No empty list leaves a hole',
  find: (context) =>
    outcomes(context, 'list', 'none').flatMap(({ decision, people, person, asked }): Found[] => {
      const { node, path, formula } = decision;
      const found = findNode(context.template, node)?.node;
      if (people === 0 || !found || found.else) return [];
      const own = path !== 'loop';
      // What an item has more of, as what was engraved on a line, may be none.
      if (own && itemsOf(found)?.list !== formula) return [];
      return [
        {
          ...{ severity: own ? 'warning' : 'hint', node, path, people },
          message: `“${nameOf(context.template, node)}” has no ${topicOf(formula)} for ${ofPeople(people, asked)} who get to it: ${own ? 'they see an empty space' : 'nothing stands there'}.`,
          ...(person !== null && { person }),
          ...(own &&
            found.when === undefined && {
              repair: {
                label: 'Show it only when there are some',
                put: { node, path: 'when', value: `count(${formula}) > 0` },
              },
            }),
        },
      ];
    }),
});
