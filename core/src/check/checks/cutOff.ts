import type { Cut } from '../../render';
import { sayCutFor } from '../cut';
import { defineCheck, ofPeople, type Found } from '../define';

export const cutOff = defineCheck({
  name: 'cut_off',
  label: 'Every email is whole',
  find: ({ survey, template }) =>
    Object.entries(survey?.facts ?? {}).flatMap(([name, { people, person }]): Found[] => {
      const [what, by, node = '', path = ''] = name.split(':');
      if (!survey || what !== 'cut') return [];
      const cut = { by: by as Cut['by'], node, path };
      const message = sayCutFor(template, cut, ofPeople(people, survey.people));
      return [{ severity: 'error', node, path, people, person, message }];
    }),
});
