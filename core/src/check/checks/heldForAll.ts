import { defineCheck } from '../define';

export const heldForAll = defineCheck({
  name: 'held_for_all',
  label: 'Somebody gets the email',
  find({ survey }) {
    if (!survey) return [];
    if (survey.people === 0)
      return [
        {
          ...{ severity: 'warning' as const, node: '', path: 'only_if' },
          message: 'Nobody has the data that this email reads, so nobody can get it now.',
        },
      ];
    if (survey.facts['held']?.people !== survey.people) return [];
    return [
      {
        ...{ severity: 'error' as const, node: '', path: 'only_if' },
        message: 'Nobody gets this email: “Send only if” of the envelope holds for nobody.',
      },
    ];
  },
});
