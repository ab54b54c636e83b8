import { color } from 'd3-color';
import { Parser } from 'htmlparser2';
import { cleaned, untoken, withTokens } from './rawHtml';

/** Words of some HTML whose colour, or what they stand on, the HTML says itself; as #rrggbb. */
export interface HtmlColours {
  words: string;
  /** Left out where the HTML does not say it. */
  ink?: string;
  ground?: string;
}

type Said = Pick<HtmlColours, 'ink' | 'ground'>;

const LONGEST = 40;

/** A colour of CSS as #rrggbb; undefined where it is none, or lets through what is behind it. */
function hexOf(value: string | undefined): string | undefined {
  const found = value === undefined ? null : color(value.trim());
  return found?.opacity === 1 ? found.formatHex() : undefined;
}

/** What one element says. Of a `background` with more than a colour, the part that is one counts. */
function saidBy(attributes: Readonly<Record<string, string>>): Said {
  const said: Said = {};
  const ink = hexOf(attributes['color']);
  const ground = hexOf(attributes['bgcolor']);
  if (ink) said.ink = ink;
  if (ground) said.ground = ground;
  for (const rule of (attributes['style'] ?? '').split(';')) {
    const at = rule.indexOf(':');
    const name = rule.slice(0, at).trim().toLowerCase();
    const value = rule.slice(at + 1).replace(/!important/i, '');
    if (name === 'color') said.ink = hexOf(value) ?? said.ink;
    if (name === 'background-color') said.ground = hexOf(value) ?? said.ground;
    if (name === 'background')
      said.ground = hexOf(value) ?? value.split(/\s+/).map(hexOf).find(Boolean) ?? said.ground;
  }
  return said;
}

/** What words of a designer's own HTML say of their colours, each pair of colours once, the first words of each. */
export function htmlColours(source: string): HtmlColours[] {
  const { html, tags } = withTokens(source);
  const open: Said[] = [{}];
  const found = new Map<string, HtmlColours>();
  const parser = new Parser(
    {
      // What an element does not say, it has from the one around it.
      onopentag: (_name, attributes) => void open.push({ ...open.at(-1), ...saidBy(attributes) }),
      onclosetag: () => void open.pop(),
      ontext(text) {
        const words = untoken(text, tags).replace(/\s+/g, ' ').trim();
        const { ink, ground } = open.at(-1) ?? {};
        const key = `${ink ?? ''} ${ground ?? ''}`;
        if (words === '' || key === ' ' || found.has(key)) return;
        const gist = words.length > LONGEST ? `${words.slice(0, LONGEST)}…` : words;
        found.set(key, { words: gist, ...(ink && { ink }), ...(ground && { ground }) });
      },
    },
    { decodeEntities: true },
  );
  parser.end(cleaned(html));
  return [...found.values()];
}
