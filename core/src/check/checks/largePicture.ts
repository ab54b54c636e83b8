import { nameOf } from '../ask';
import { defineCheck } from '../define';
import { libraryPictures } from '../libraryPictures';

/** Twice the size is drawn for sharp screens; more than so many times of it serves nobody. */
const FAR = 4;

export const largePicture = defineCheck({
  name: 'large_picture',
  label: 'No picture is far larger than it is shown',
  find: (context) =>
    libraryPictures(context)
      .filter(({ picture, width }) => width !== null && picture.width > width * FAR)
      .map(({ node, path, picture, width }) => ({
        ...{ severity: 'hint' as const, node, path },
        message: `The picture of “${nameOf(context.template, node)}” is ${picture.width} pixels wide and shown in ${width ?? 0}. It is sent smaller; a smaller file would look the same.`,
      })),
});
