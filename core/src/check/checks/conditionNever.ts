import { findNode } from '../../template/nodes';
import { nameOf, outcomes } from '../ask';
import { defineCheck } from '../define';

export const conditionNever = defineCheck({
  name: 'condition_never',
  label: 'No condition holds for nobody',
  find: (context) =>
    outcomes(context, 'condition', 'held')
      .filter(
        ({ decision, people, asked }) => decision.path === 'when' && asked > 0 && people === 0,
      )
      .map(({ decision: { node, path } }) => ({
        ...{ severity: 'hint' as const, node, path },
        message: `The condition of “${nameOf(context.template, node)}” never holds: nobody sees it.${
          findNode(context.template, node)?.node.else ? ' Everybody gets its else.' : ''
        }`,
      })),
});
