const MOST_BYTES = 2_000_000;
const MOST_ELEMENTS = 20_000;
/** What one element can multiply: each is drawn as often as it is used, uses of uses as often as both. */
const MOST_USES = 200;
const MOST_FILTERS = 20;
const MOST_SIDE = 20_000;

const count = (text: string, pattern: RegExp): number => {
  let n = 0;
  for (const _ of text.matchAll(pattern)) n++;
  return n;
};

/** Whether a file begins like an SVG. */
export const isSvg = (beginning: string): boolean =>
  /^\s*(?:<\?xml[^>]*>\s*)?(?:<!--[^]*?-->\s*|<!DOCTYPE[^>]*>\s*)*<svg[\s>]/i.test(beginning);

/** Why drawing an SVG could take too long or too much memory, in a sentence; null where nothing speaks against it. */
export function svgProblem(text: string): string | null {
  if (text.length > MOST_BYTES)
    return 'This SVG has more than 2 MB. Simplify it, or save it as a PNG.';
  if (count(text, /<[a-z]/gi) > MOST_ELEMENTS)
    return 'This SVG has more than 20,000 parts. Simplify it, or save it as a PNG.';
  if (count(text, /<use\b/gi) > MOST_USES)
    return 'This SVG repeats its parts (use) more than 200 times. Save it as a PNG.';
  if (count(text, /<(?:filter|fe[A-Z]\w*|mask|pattern)\b/g) > MOST_FILTERS)
    return 'This SVG has more than 20 filters, masks or patterns. Save it as a PNG.';
  for (const [, blur = ''] of text.matchAll(/\b(?:stdDeviation|radius)\s*=\s*["']([^"']*)/g))
    if (blur.split(/[\s,]+/).some((one) => Number(one) > 100))
      return 'A filter of this SVG reaches too far. Save it as a PNG.';
  const root = /<svg\b[^>]*>/i.exec(text)?.[0] ?? '';
  for (const [, size = ''] of root.matchAll(/\b(?:width|height)\s*=\s*["']\s*([\d.eE+]+)/g))
    if (Number(size) > MOST_SIDE)
      return 'This SVG is more than 20,000 pixels wide or high. Make it smaller.';
  if (/<!ENTITY/i.test(text))
    return 'This SVG defines its own entities. Remove them, or save it as a PNG.';
  return null;
}
