import { htmlColours } from '../build/htmlColours';
import type { HouseStyle } from '../template/parts';
import type { Template } from '../template/schema';
import { positions } from './ask';
import type { Repair } from './define';

/** The least contrast that WCAG asks of running text. */
export const LEAST_CONTRAST = 4.5;

type Rgb = [number, number, number];

const parse = (colour: string): Rgb => [
  Number.parseInt(colour.slice(1, 3), 16),
  Number.parseInt(colour.slice(3, 5), 16),
  Number.parseInt(colour.slice(5, 7), 16),
];

const channel = (value: number): number => {
  const part = value / 255;
  return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
};
const luminance = ([r, g, b]: Rgb): number =>
  0.2126 * channel(r) + 0.7152 * channel(g) + 0.0722 * channel(b);

/** The contrast of two colours, 1 to 21 (WCAG 2.2, contrast ratio). */
export function contrastOf(a: string, b: string, dark = false): number {
  const [one, other] = [a, b].map((colour) =>
    luminance(dark ? darkened(parse(colour)) : parse(colour)),
  );
  const light = Math.max(one ?? 0, other ?? 0);
  const deep = Math.min(one ?? 0, other ?? 0);
  return (light + 0.05) / (deep + 0.05);
}

/**
 * A colour as mail programs show it that darken mails on their own: light and dark turned round, the hue kept (CSS Filter
 * Effects, invert and hue-rotate(180deg)).
 */
function darkened(colour: Rgb): Rgb {
  const [r, g, b] = colour.map((value) => 255 - value) as Rgb;
  const clamp = (value: number) => Math.min(255, Math.max(0, value));
  return [
    clamp(-0.574 * r + 1.43 * g + 0.144 * b),
    clamp(0.426 * r + 0.43 * g + 0.144 * b),
    clamp(0.426 * r + 1.43 * g - 0.856 * b),
  ];
}

/** Words of a mail on what they stand on. */
export interface Pair {
  node: string;
  path: string;
  what: string;
  ink: string;
  ground: string;
}

const COLOUR = /^#[0-9a-f]{6}$/i;

/** Every colour of words in a template with the ground that it stands on. */
export function colourPairs(template: Template): Pair[] {
  const { style } = template as { style: HouseStyle };
  const pairs: Pair[] = [
    {
      ...{ node: '', path: 'style.on_primary', what: 'The text of buttons' },
      ...{ ink: style.on_primary, ground: style.primary },
    },
  ];
  for (const { node, parents } of positions(template)) {
    const ground = [node, ...[...parents].reverse()]
      .map((one) => (one as { background?: unknown }).background)
      .find((one): one is string => typeof one === 'string' && COLOUR.test(one));
    if (node.kind === 'section' || node.kind === 'column' || node.kind === 'group') {
      if (!(node as { background?: unknown }).background || !ground) continue;
      pairs.push({
        ...{ node: node.id, path: 'background', what: 'Text' },
        ...{ ink: style.ink, ground },
      });
      continue;
    }
    if (node.kind === 'html')
      for (const { words, ...said } of htmlColours(node.source))
        pairs.push({
          ...{ node: node.id, path: 'source', what: `“${words}”` },
          ...{ ink: said.ink ?? style.ink, ground: said.ground ?? ground ?? style.surface },
        });
    const own = (node as { colour?: unknown }).colour;
    if (typeof own === 'string' && COLOUR.test(own))
      pairs.push({
        ...{ node: node.id, path: 'colour', what: 'Text' },
        ...{ ink: own, ground: ground ?? style.surface },
      });
  }
  pairs.push(
    { node: '', path: 'style.ink', what: 'Text', ink: style.ink, ground: style.surface },
    {
      node: '',
      path: 'style.quiet',
      what: 'Secondary text',
      ink: style.quiet,
      ground: style.surface,
    },
  );
  return pairs;
}

/** A colour of a node’s own gives way to that of the house, where that can be read there. */
export function houseColour(
  { node, path, ink, ground }: Pair,
  style: HouseStyle,
  isDark: boolean,
): { repair: Repair } | null {
  const other = path === 'colour' ? [style.ink, ground] : [ink, style.surface];
  const helps = contrastOf(other[0] ?? ink, other[1] ?? ground, isDark) >= LEAST_CONTRAST;
  if (node === '' || (path !== 'colour' && path !== 'background') || !helps) return null;
  const label = `Use the ${path === 'colour' ? 'colour' : 'background'} of the house`;
  return { repair: { label, put: { node, path, value: undefined } } };
}
