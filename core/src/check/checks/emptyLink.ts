import { fieldsAt, valueAt } from '../../blocks/fields';
import { kindOf } from '../../template/kinds';
import { nameOf, outcomes, positions, shortened } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';
import { writtenLinks } from '../written';

/** Blocks that are nothing without where they lead. */
const NEEDS = new Set(['button']);

export const emptyLink = defineCheck({
  name: 'empty_link',
  label: 'No link is empty',
  find(context) {
    const { template } = context;
    const still: Found[] = positions(template).flatMap(({ node }) =>
      fieldsAt(node, kindOf(node).fields).flatMap(({ field, path }): Found[] => {
        const isLink = field.control === 'line' && field.holds === 'link';
        if (!isLink || (field.optional === true && !NEEDS.has(node.kind))) return [];
        const value = valueAt(node, path);
        if (typeof value === 'string' && value.trim() !== '') return [];
        return [
          {
            ...{ severity: 'error', node: node.id, path },
            message: `“${nameOf(template, node.id)}” leads nowhere: it has no link, and is left out of the mail.`,
          },
        ];
      }),
    );
    const written = writtenLinks(template)
      .filter(({ href }) => href.trim() === '')
      .map(({ node, path, words }): Found => ({
        ...{ severity: 'error', node, path },
        message: `“${shortened(words.trim(), 40)}” in “${nameOf(template, node)}” is a link that leads nowhere. Give it an address, or take the link away.`,
      }));
    const some: Found[] = outcomes(context, 'address', 'blank')
      .filter(
        ({ decision, people }) =>
          people > 0 && /href|link|view|unsubscribe|preferences/.test(decision.path),
      )
      .map(({ decision: { node, path }, people, person, asked }) => ({
        ...{ severity: 'warning', node, path, people },
        message: `“${nameOf(template, node)}” has no address to lead to for ${ofPeople(people, asked)} who get to it.`,
        ...(person !== null && { person }),
      }));
    return [...still, ...written, ...some];
  },
});
