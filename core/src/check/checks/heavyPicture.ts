import { nameOf } from '../ask';
import { defineCheck, type KnownPicture } from '../define';
import { libraryPictures } from '../libraryPictures';

const HEAVY = 1_000_000;

/**
 * What a picture of the library weighs as it is sent, in bytes: it is drawn for the width that it is shown in, and for
 * twice of it; of what is drawn smaller, about its share of the file by pixels.
 */
function sentBytes({ width: own, bytes }: KnownPicture, shown: number): number {
  const drawn = Math.min(own, 2 * shown);
  return bytes * (drawn / own) ** 2;
}

export const heavyPicture = defineCheck({
  name: 'heavy_picture',
  label: 'No picture is heavier than 1 MB',
  find: (context) =>
    libraryPictures(context).flatMap(({ node, path, picture, width }) => {
      const bytes = sentBytes(picture, width ?? context.template.style.width);
      if (bytes <= HEAVY) return [];
      const about = bytes < picture.bytes ? 'about ' : '';
      return [
        {
          ...{ severity: 'warning' as const, node, path },
          message: `The picture of “${nameOf(context.template, node)}” weighs ${about}${(bytes / 1e6).toFixed(1)} MB. On a phone it comes late, or not at all.`,
        },
      ];
    }),
});
