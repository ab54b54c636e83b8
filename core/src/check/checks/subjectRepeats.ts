import { factFound } from '../ask';
import { defineCheck } from '../define';

export const subjectRepeats = defineCheck({
  name: 'subject_repeats',
  label: 'The subject says no word twice in a row',
  find: (context) =>
    factFound(context, 'subject_twice', {
      ...{ severity: 'warning', path: 'subject' },
      say: (whom, { sample }) => `The subject says a word twice in a row for ${whom}: “${sample}”.`,
    }),
});
