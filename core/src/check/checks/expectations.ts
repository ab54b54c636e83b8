import { parsedFormula, walk, type Node } from '../../formula';
import { shortened } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';

const OF_MAIL = new Set(['subject', 'preview_text', 'text', 'size', 'links', 'pictures', 'shown']);

/** What a formula asks of the mail that it does not have. */
function unknownOfMail(formula: Node): string | null {
  let unknown: string | null = null;
  walk(formula, (node) => {
    if (node.type === 'field' && node.of.type === 'name' && node.of.name === 'mail')
      if (!OF_MAIL.has(node.name)) unknown ??= node.name;
  });
  return unknown;
}

export const expectations = defineCheck({
  name: 'expectations',
  label: 'What is expected of every email holds',
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
      const unknown = unknownOfMail(parsed.value);
      if (unknown !== null)
        return [
          {
            ...{ severity: 'error', node: '', path },
            message: `The expectation “${said}” asks for mail.${unknown}, which an email does not have. It has ${[...OF_MAIL].join(', ')}.`,
          },
        ];
      const broken = survey?.broken[i];
      const [person] = broken?.persons ?? [];
      if (!survey || !broken || broken.people === 0) return [];
      return [
        {
          ...{ severity: 'error', node: '', path, people: broken.people },
          message: `“${said}” is not true for the email of ${ofPeople(broken.people, survey.people)}.`,
          ...(person !== undefined && { person }),
        },
      ];
    }),
});
