import { DEMO_SHOPS } from '@carafe/demo';
import type { SignedLink } from '../people/mailToken';

/** Links of a mail that were led through Carafe, in order. */
export interface Rewritten {
  html: string;
  text: string;
  /** Where each leads. */
  links: string[];
}

const HREF = /(<a\b[^>]*?\shref=")(https?:[^"]+)(")/gi;
const ENTITIES: Record<string, string> = {
  ...{ '&amp;': '&', '&quot;': '"', '&#39;': "'", '&lt;': '<', '&gt;': '>' },
};
const unescape = (text: string) =>
  text.replace(/&(?:amp|quot|#39|lt|gt);/g, (one) => ENTITIES[one] ?? one);
const escape = (text: string) => text.replace(/&/g, '&amp;').replace(/"/g, '&quot;');

/** The stand-in shop that an address is of, if it is of one. */
export function standInOf(address: string): { shop: string; path: string } | null {
  for (const { id, url } of DEMO_SHOPS) {
    if (!address.startsWith(url)) continue;
    const path = address.slice(url.length);
    // Of another host that begins alike it is none; link tags may stand right behind the host.
    if (/^(?:$|[/?#])/.test(path))
      return { shop: id, path: path.startsWith('/') ? path : `/${path}` };
  }
  return null;
}

/**
 * Leads links through Carafe: those that `isLed` says, each to what `lead` gives for its number. The same address is one
 * link, in HTML and text alike.
 */
export function rewriteLinks(
  html: string,
  text: string,
  isLed: (address: string) => boolean,
  lead: (number: number) => string,
): Rewritten {
  const links: string[] = [];
  const leads = new Map<string, string>();
  const ledTo = (address: string): string | null => {
    const known = leads.get(address);
    if (known !== undefined) return known;
    if (!isLed(address)) return null;
    const led = lead(links.push(address) - 1);
    leads.set(address, led);
    return led;
  };
  const led = html.replace(HREF, (whole, before: string, address: string, after: string) => {
    const to = ledTo(unescape(address));
    return to === null ? whole : `${before}${escape(to)}${after}`;
  });
  // In text an address stands as it is, up to a space; the longest that is known is meant.
  const plain = text.replace(/https?:\/\/[^\s<>]+/g, (address) => leads.get(address) ?? address);
  return { html: led, text: plain, links };
}

/** What stood behind the id in what was signed before each kind of link had a signature of its own. */
const FOLLOWED = '.go';

/**
 * Which link of which mail somebody follows, by what was signed and the number behind it; null for neither. Old mails have
 * `<mail>.go`, and still older ones the number, in what is signed.
 */
export function linkMeant(
  signed: SignedLink | null,
  number: string | undefined,
): { mail: string; number: string } | null {
  if (signed === null) return null;
  const { text, isOld } = signed;
  if (!isOld) return number === undefined ? null : { mail: text, number };
  if (number !== undefined)
    return text.endsWith(FOLLOWED) ? { mail: text.slice(0, -FOLLOWED.length), number } : null;
  const dot = text.lastIndexOf('.');
  return dot < 0 ? null : { mail: text.slice(0, dot), number: text.slice(dot + 1) };
}

/** Before the end of the body, a picture of one pixel that tells of an opened mail. */
export function withPixel(html: string, address: string): string {
  const pixel = `<img src="${escape(address)}" width="1" height="1" alt="" style="display:block;border:0" />`;
  const end = html.lastIndexOf('</body>');
  return end < 0 ? html + pixel : html.slice(0, end) + pixel + html.slice(end);
}
