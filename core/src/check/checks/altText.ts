import { fieldsAt, valueAt } from '../../blocks/fields';
import { kindOf } from '../../template/kinds';
import { nameOf, outcomes, positions } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';

/** The name of a file, or what cameras call theirs. */
const FILE =
  /^[^\s/]+\.(?:png|jpe?g|gif|webp|svg|avif|heic)$|^(?:IMG|DSC|DSCF|PXL|image|picture|photo|untitled|screenshot)[-_ ]?\d*$/i;
const isAlt = (path: string) => /(?:^|\.)alt$/.test(path);

export const altText = defineCheck({
  name: 'alt_text',
  label: 'Pictures have alt text',
  find(context) {
    const { template } = context;
    const missing: Found[] = positions(template).flatMap(({ node }) =>
      fieldsAt(node, kindOf(node).fields).flatMap(({ path, field }): Found[] => {
        if (!isAlt(path) || field.control !== 'line') return [];
        const value = valueAt(node, path);
        if (typeof value === 'string' && FILE.test(value.trim()))
          return [
            {
              ...{ severity: 'warning', node: node.id, path },
              message: `The alt text of “${nameOf(template, node.id)}” is the name of a file. Say what the picture shows.`,
            },
          ];
        if (typeof value === 'string' && value.trim() !== '') return [];
        return [
          {
            ...{ severity: 'warning', node: node.id, path },
            message: `“${nameOf(template, node.id)}” has a picture without alt text: whoever sees no pictures, sees nothing there.`,
          },
        ];
      }),
    );
    const blank: Found[] = outcomes(context, 'value', 'blank')
      .filter(({ decision, people }) => people > 0 && isAlt(decision.path))
      .map(({ decision: { node, path }, people, person, asked }) => ({
        ...{ severity: 'warning', node, path, people },
        message: `The alt text of “${nameOf(template, node)}” is blank for ${ofPeople(people, asked)} who get to it.`,
        ...(person !== null && { person }),
      }));
    return [...missing, ...blank];
  },
});
