import { libraryPicture } from '../picture/reference';
import { fieldsAt, valueAt } from '../blocks/fields';
import { kindOf } from '../template/kinds';
import { positions } from './ask';
import type { CheckContext, KnownPicture } from './define';

/** Each place that shows a picture of the library. */
export function libraryPictures({ template, pictures }: CheckContext): {
  node: string;
  path: string;
  picture: KnownPicture;
  /** The width that it is shown in, in pixels; null where it fills what there is. */
  width: number | null;
  section: string;
}[] {
  const known = new Map((pictures ?? []).map((one) => [one.id, one]));
  return positions(template).flatMap(({ node, parents }) =>
    fieldsAt(node, kindOf(node).fields).flatMap(({ path }) => {
      const src = valueAt(node, path);
      const named = typeof src === 'string' ? libraryPicture(src) : null;
      const picture = named && known.get(named.id);
      if (!picture) return [];
      const width = valueAt(node, 'width');
      return [
        {
          ...{ node: node.id, path, picture, section: parents[0]?.id ?? node.id },
          width: typeof width === 'number' ? width : null,
        },
      ];
    }),
  );
}
