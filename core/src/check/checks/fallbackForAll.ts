import { topicOf } from '../../variant';
import { onlyOutcome, outcomes } from '../ask';
import { defineCheck } from '../define';

export const fallbackForAll = defineCheck({
  name: 'fallback_for_all',
  label: 'No fallback is all that anybody gets',
  find: (context) =>
    outcomes(context, 'value', 'fallback')
      .filter(
        ({ number, asked, people }) =>
          asked > 0 && people === asked && onlyOutcome(context, number, 4) === asked,
      )
      .map(({ decision: { node, path, formula }, person }) => ({
        ...{ severity: 'warning' as const, node, path },
        message: `Everybody gets the fallback for “${topicOf(formula)}”: nobody has it. Is it the right field?`,
        ...(person !== null && { person }),
      })),
});
