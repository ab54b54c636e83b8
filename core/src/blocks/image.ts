import type { Writer } from '../build/writer';
import { libraryPicture, RATIOS, ratioOf, shownAt, type Ratio } from '../picture';
import type { ChoiceField, NumberField } from './fields';

interface Image {
  src: string;
  alt: string;
  /** Where `src` and `alt` stand in the node. */
  paths: { src: string; alt: string };
  /** In pixels of the mail. */
  width: number;
  ratio?: Ratio | undefined;
  corners?: number | undefined;
  /** With the mark of a video; of the library alone. */
  marked?: boolean;
}

/**
 * A picture as HTML. One of the library comes at the size needed and at twice of it, with its height; any
 * other as it is, cut to the ratio by the screens that can.
 */
export function imageHtml(
  { src, alt, paths, width, ratio, corners = 0, marked = false }: Image,
  writer: Writer,
): string {
  const own = libraryPicture(src);
  const shape = ratioOf(ratio);
  const shown = own && shownAt(own, width, shape, marked);
  const url = (text: string) => writer.url(text, paths.src, 'picture');
  const cut = shape !== null && !shown ? `aspect-ratio:${shape.toFixed(4)};object-fit:cover;` : '';
  const sizes = shown
    ? ` srcset="${url(shown.once)} 1x, ${url(shown.twice)} 2x" height="${shown.height}"`
    : shape === null
      ? ''
      : ` height="${Math.round(width / shape)}"`;
  return `<img src="${url(shown?.once ?? src)}"${sizes} alt="${writer.running(alt, 'attribute', paths.alt)}" width="${width}" style="display:block;border:0;width:100%;max-width:${width}px;height:auto;${cut}${corners > 0 ? `border-radius:${corners}px;` : ''}font-size:13px">`;
}

const RATIO_LABELS: Record<Ratio, string> = {
  own: 'As it is',
  '1:1': 'Square',
  '4:3': '4 to 3',
  '3:2': '3 to 2',
  '16:9': '16 to 9',
  '3:4': '3 to 4, upright',
  '2:3': '2 to 3, upright',
};

/** The shape that a picture, or all of several, is brought to. */
export const RATIO_FIELD: ChoiceField = {
  control: 'choice',
  as: 'menu',
  path: 'ratio',
  label: 'Shape',
  optional: true,
  initial: 'own',
  options: RATIOS.map((value) => ({ value, label: RATIO_LABELS[value] })),
};

export const CORNERS_FIELD: NumberField = {
  control: 'number',
  path: 'corners',
  label: 'Rounded corners',
  part: 'looks',
  optional: true,
  placeholder: 'None',
  least: 0,
  most: 200,
  unit: 'px',
};
