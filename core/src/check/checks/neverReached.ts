import { findNode } from '../../template/nodes';
import { nameOf } from '../ask';
import { defineCheck } from '../define';

export const neverReached = defineCheck({
  name: 'never_reached',
  label: 'Somebody sees every part',
  find({ template, survey, coverage }) {
    if (!survey || !coverage || survey.people === 0) return [];
    const none = new Set(
      coverage.nodes.filter(({ people }) => people === 0).map(({ node }) => node),
    );
    return coverage.nodes
      .filter(({ node, people, isElse }) => {
        const position = findNode(template, node);
        // What stands in a part that nobody sees is told with it; a condition and an else are told by their own checks.
        const inside = position?.parents.some((parent) => none.has(parent.id)) ?? false;
        return people === 0 && !inside && !isElse && position?.node.when === undefined;
      })
      .map(({ node }) => ({
        ...{ severity: 'hint' as const, node, path: 'loop' },
        message: `Nobody sees “${nameOf(template, node)}”: its list is empty for everybody.`,
      }));
  },
});
