import { nameOf } from '../ask';
import { defineCheck } from '../define';
import { libraryPictures } from '../libraryPictures';

const HEAVY = 1_000_000;

export const heavyPicture = defineCheck({
  name: 'heavy_picture',
  label: 'No picture is heavier than 1 MB',
  find: (context) =>
    libraryPictures(context)
      .filter(
        ({ picture, width }) =>
          picture.bytes > HEAVY && (width === null || width * 2 >= picture.width),
      )
      .map(({ node, path, picture }) => ({
        ...{ severity: 'warning' as const, node, path },
        message: `The picture of “${nameOf(context.template, node)}” weighs ${(picture.bytes / 1e6).toFixed(1)} MB. On a phone it comes late, or not at all.`,
      })),
});
