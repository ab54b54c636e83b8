import { factFound } from '../ask';
import { defineCheck } from '../define';

export const previewBlank = defineCheck({
  name: 'preview_blank',
  label: 'The preview text is not blank',
  find: (context) =>
    factFound(context, 'preview_blank', {
      ...{ severity: 'warning', path: 'preview_text' },
      say: (whom) =>
        `The preview text is blank for ${whom}: email clients show the first words of the email instead.`,
    }),
});
