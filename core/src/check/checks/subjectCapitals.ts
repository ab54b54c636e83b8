import { factFound } from '../ask';
import { defineCheck } from '../define';

export const subjectCapitals = defineCheck({
  name: 'subject_capitals',
  label: 'The subject is not all capitals',
  find: (context) =>
    factFound(context, 'subject_capitals', {
      ...{ severity: 'warning', path: 'subject' },
      say: (whom, { sample }) =>
        `The subject is written in capitals for ${whom}: “${sample}”. Email clients take that for advertising.`,
    }),
});
