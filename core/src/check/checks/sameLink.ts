import { findNode } from '../../template/nodes';
import { nameOf, shortened } from '../ask';
import { defineCheck, type Found } from '../define';
import { itemsOf } from '../../template/nodes';

export const sameLink = defineCheck({
  name: 'same_link',
  label: 'Each product leads to its own page',
  find: ({ survey, template }) => {
    // The picture and the words of a card lead to one page: it is said once.
    const said = new Set<string>();
    return (survey?.addresses ?? []).flatMap(({ decision: number, only, given }): Found[] => {
      const decision = survey?.decisions[number];
      if (!survey || !decision || only === null || given <= survey.people) return [];
      const position = findNode(template, decision.node);
      if (!position) return [];
      const repeats = [position.node, ...position.parents].some(
        (node) => node.loop ?? itemsOf(node),
      );
      const key = `${decision.node} ${only}`;
      if (!repeats || !/href/.test(decision.path) || said.has(key)) return [];
      said.add(key);
      return [
        {
          ...{ severity: 'warning', node: decision.node, path: decision.path },
          message: `Whatever “${nameOf(template, decision.node)}” repeats leads to the same page, ${shortened(only)}. Link to the page of each.`,
        },
      ];
    });
  },
});
