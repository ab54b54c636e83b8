const TAG = /<(\/?)([a-z][a-z0-9]*)\b[^<>]*>/gi;
const VOID = new Set('area base br col embed hr img input link meta source track wbr'.split(' '));

/**
 * HTML without the tags that are nested deeper than so many others; their words stay. In one pass: what cleans HTML takes a time
 * that grows with the square of the depth.
 */
export function shallowHtml(html: string, most: number): string {
  let depth = 0;
  return html.replace(TAG, (tag, closing: string, name: string) => {
    if (VOID.has(name.toLowerCase()) || tag.endsWith('/>')) return tag;
    if (closing === '') return ++depth > most ? '' : tag;
    const isKept = depth <= most;
    depth = Math.max(0, depth - 1);
    return isKept ? tag : '';
  });
}
