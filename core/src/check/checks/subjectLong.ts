import { factFound } from '../ask';
import { defineCheck } from '../define';

export const subjectLong = defineCheck({
  name: 'subject_long',
  label: 'The subject has 60 characters at most',
  find: (context) =>
    factFound(context, 'subject_long', {
      ...{ severity: 'warning', path: 'subject' },
      say: (whom, { sample }) =>
        `The subject has more than 60 characters for ${whom}, and is cut: “${sample}”.`,
    }),
});
