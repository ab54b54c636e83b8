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
      .map(({ decision: { node, path } }) => ({
        ...{ severity: 'hint' as const, node, path },
        message: `The condition of “${nameOf(context.template, node)}” holds for everybody: it decides nothing.${
          findNode(context.template, node)?.node.else ? ' Its else is never shown.' : ''
        }`,
      })),
});
