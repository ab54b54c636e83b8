import sanitizeHtml from 'sanitize-html';
import { shallowHtml } from '../shallowHtml';

const TAGS =
  'p br b strong i em u s a ul ol li h2 h3 h4 blockquote code pre hr img table thead tbody tr th td figure figcaption sup sub span div'.split(
    ' ',
  );

/** Deeper than this is no text. */
const MOST_NESTED = 100;
const CLEAN: sanitizeHtml.IOptions = {
  allowedTags: TAGS,
  allowedAttributes: { a: ['href', 'title'], img: ['src', 'alt', 'width', 'height'] },
  allowedSchemes: ['http', 'https', 'mailto'],
  allowProtocolRelative: false,
  parseStyleAttributes: false,
  transformTags: { h1: 'h2' },
  // Such a picture would be a broken one.
  exclusiveFilter: ({ tag, attribs }) => tag === 'img' && !attribs['src'],
};

/** A whole address, as one that is written from `base` on means it; as it is where it cannot be read. */
export function wholeAddress(written: string, base: string | undefined): string {
  // What names a kind of address is whole, or none.
  const isPart = !/^[^/?#]*:/.test(written);
  return isPart && base !== undefined && URL.canParse(written, base)
    ? new URL(written, base).href
    : written;
}

/**
 * Keeps of foreign HTML what a mail can show: words, lists, links, pictures. Scripts, styles, forms,
 * frames and handlers go, and addresses that are neither http(s) nor mailto. Where it is known where it
 * stood, addresses are made whole.
 */
export function cleanHtml(html: string, base?: string): string {
  const whole =
    (name: string): sanitizeHtml.Transformer =>
    (tagName, attribs) => {
      const written = attribs[name];
      return {
        tagName,
        attribs: written ? { ...attribs, [name]: wholeAddress(written, base) } : attribs,
      };
    };
  return sanitizeHtml(shallowHtml(html, MOST_NESTED), {
    ...CLEAN,
    transformTags: { h1: 'h2', a: whole('href'), img: whole('src') },
  }).trim();
}

const ABSOLUTE = /^(?:https?:\/\/|mailto:)/i;

/**
 * The same for the inside of a mail: a link without a whole address leaves its words, a picture nothing,
 * and pictures are no wider than what they stand in.
 */
export function mailHtml(html: string): string {
  const isWhole = (address: string | undefined) => ABSOLUTE.test(address ?? '');
  return sanitizeHtml(shallowHtml(html, MOST_NESTED), {
    ...CLEAN,
    allowedAttributes: {
      a: ['href', 'title', 'target'],
      img: ['src', 'alt', 'width', 'style'],
    },
    transformTags: {
      h1: 'h2',
      a: (tagName, attribs) =>
        isWhole(attribs['href'])
          ? { tagName, attribs: { ...attribs, target: '_blank' } }
          : { tagName: 'span', attribs: {} },
      img: (tagName, { src, alt = '', width }) => ({
        tagName,
        attribs: {
          ...(src !== undefined && isWhole(src) && { src }),
          ...{ alt, ...(width !== undefined && /^\d{1,4}$/.test(width) && { width }) },
          style: 'max-width:100%;height:auto;border:0',
        },
      }),
    },
  }).trim();
}

/** The words of HTML, on one line. */
export function wordsOf(html: string): string {
  const spaced = html.replace(/<(?:br|\/p|\/div|\/li|\/h[1-6]|\/tr|\/td)\b[^>]*>/gi, '$& ');
  const text = sanitizeHtml(shallowHtml(spaced, MOST_NESTED), {
    allowedTags: [],
    allowedAttributes: {},
    // Text is asked for, not HTML: what stands for a letter becomes the letter again.
    parser: { decodeEntities: true },
  });
  return unescapeHtml(text).replace(/\s+/g, ' ').trim();
}

const NAMED: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"' };
function unescapeHtml(text: string): string {
  return text.replace(/&(amp|lt|gt|quot);/g, (whole, name: string) => NAMED[name] ?? whole);
}
