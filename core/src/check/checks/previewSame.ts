import { factFound } from '../ask';
import { defineCheck } from '../define';

export const previewSame = defineCheck({
  name: 'preview_same',
  label: 'The preview text says more than the subject',
  find: (context) =>
    factFound(context, 'preview_same', {
      ...{ severity: 'warning', path: 'preview_text' },
      say: (whom) => `The preview text says the same as the subject for ${whom}.`,
    }),
});
