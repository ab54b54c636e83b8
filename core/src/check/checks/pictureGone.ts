import { fieldsAt, valueAt } from '../../blocks/fields';
import { picturesNamed } from '../../picture/reference';
import { kindOf } from '../../template/kinds';
import { nameOf, positions } from '../ask';
import { defineCheck } from '../define';

export const pictureGone = defineCheck({
  name: 'picture_gone',
  label: 'The library has every picture',
  find({ template, pictures }) {
    if (pictures === null) return [];
    const known = new Set(pictures.map(({ id }) => id));
    return positions(template).flatMap(({ node }) =>
      fieldsAt(node, kindOf(node).fields).flatMap(({ path }) => {
        const value = valueAt(node, path);
        if (typeof value !== 'string' || picturesNamed(value).every((id) => known.has(id)))
          return [];
        return [
          {
            ...{ severity: 'error' as const, node: node.id, path },
            message: `“${nameOf(template, node.id)}” shows a picture that is no longer in the library. Choose another.`,
          },
        ];
      }),
    );
  },
});
