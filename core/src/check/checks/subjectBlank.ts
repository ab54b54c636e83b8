import { factFound } from '../ask';
import { defineCheck } from '../define';

export const subjectBlank = defineCheck({
  name: 'subject_blank',
  label: 'The subject is never blank',
  find: (context) =>
    factFound(context, 'subject_blank', {
      ...{ severity: 'error', path: 'subject' },
      say: (whom) => `The subject is blank for ${whom}.`,
    }),
});
