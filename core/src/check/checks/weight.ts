import { factFound } from '../ask';
import { defineCheck } from '../define';

export const weight = defineCheck({
  name: 'weight',
  label: 'The mail weighs 100 KB at most',
  find: (context) =>
    factFound(context, 'heavy', {
      ...{ severity: 'warning', path: 'weight' },
      say: (whom) =>
        `The mail weighs over 100 KB for ${whom}, and some mail programs cut off the rest. Show fewer members of its lists.`,
    }),
});
