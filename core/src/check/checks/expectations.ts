import { parsedFormula } from '../../formula';
import { shortened } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';

export const expectations = defineCheck({
  name: 'expectations',
  label: 'What is expected of every mail holds',
  find: ({ template, survey }) =>
    (template.expectations ?? []).flatMap(({ formula, name }, i): Found[] => {
      const parsed = parsedFormula(formula);
      const said = name === undefined || name === '' ? shortened(formula, 80) : name;
      const path = `expectations.${i}.formula`;
      if (!parsed.ok)
        return [
          {
            ...{ severity: 'error', node: '', path },
            message: `The expectation “${said}” cannot be read: ${parsed.error.message}`,
          },
        ];
      const broken = survey?.broken[i];
      const [person] = broken?.persons ?? [];
      if (!survey || !broken || broken.people === 0) return [];
      return [
        {
          ...{ severity: 'error', node: '', path, people: broken.people },
          message: `“${said}” does not hold for the mail of ${ofPeople(broken.people, survey.people)}.`,
          ...(person !== undefined && { person }),
        },
      ];
    }),
});
