import { findNode } from '../../template/nodes';
import { nameOf, outcomes } from '../ask';
import { defineCheck } from '../define';

export const conditionAlways = defineCheck({
  name: 'condition_always',
  label: 'No condition holds for everybody',
  find: (context) =>
    outcomes(context, 'condition', 'not')
      .filter(
        ({ decision, people, asked }) => decision.path === 'when' && asked > 0 && people === 0,
      )
      .map(({ decision: { node, path } }) => {
        const hasElse = findNode(context.template, node)?.node.else !== undefined;
        return {
          ...{ severity: 'hint' as const, node, path },
          message: `The condition of “${nameOf(context.template, node)}” holds for everybody: it decides nothing.${
            hasElse ? ' Its else is never shown.' : ''
          }`,
          ...(!hasElse && {
            repair: { label: 'Take the condition away', put: { node, path, value: undefined } },
          }),
        };
      }),
});
