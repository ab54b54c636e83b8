import { factFound } from '../ask';
import { defineCheck } from '../define';

export const weight = defineCheck({
  name: 'weight',
  label: 'The email weighs 100 KB at most',
  find: (context) =>
    factFound(context, 'heavy', {
      ...{ severity: 'warning', path: 'weight' },
      say: (whom) =>
        `The email weighs over 100 KB for ${whom}, and some email clients cut off the rest. Show fewer members of its lists.`,
    }),
});
