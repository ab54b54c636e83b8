import { caniemail } from 'caniemail';
import { nameOf, positions } from '../ask';
import { defineCheck, type Found } from '../define';

/** What most people read their mail with, as the data names them. */
const CLIENTS = ['apple-mail.*', 'gmail.*', 'outlook.*', 'yahoo.*'] as const;

export const mailPrograms = defineCheck({
  name: 'mail_programs',
  label: 'Email clients show what raw HTML asks for',
  find: ({ template }) =>
    positions(template).flatMap(({ node }): Found[] => {
      if (node.kind !== 'html' || node.source.trim() === '') return [];
      const { issues } = caniemail({
        clients: [...CLIENTS],
        html: node.source,
      });
      const titles = new Set([...issues.errors.values()].flat().map(({ title }) => title));
      if (titles.size === 0) return [];
      const some = [...titles].slice(0, 4).join(', ');
      return [
        {
          ...{ severity: 'warning', node: node.id, path: 'source' },
          message: `“${nameOf(template, node.id)}” asks for what some widely used email clients do not show: ${some}${titles.size > 4 ? ` and ${titles.size - 4} more` : ''}.`,
        },
      ];
    }),
});
