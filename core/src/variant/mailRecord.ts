import type { Fields } from '../formula';
import type { Mail } from '../render';

const LINK = /<a\b[^>]*?\shref="([^"]*)"[^>]*>([\s\S]*?)<\/a>/gi;
const PICTURE = /<img\b[^>]*>/gi;
const ENTITIES: Record<string, string> = {
  ...{ '&amp;': '&', '&quot;': '"', '&#39;': "'", '&lt;': '<', '&gt;': '>', '&nbsp;': ' ' },
};
const unescape = (html: string): string =>
  html.replace(/&(?:amp|quot|#39|lt|gt|nbsp);/g, (one) => ENTITIES[one] ?? one);
const attribute = (tag: string, name: string): string =>
  unescape(new RegExp(`\\s${name}="([^"]*)"`, 'i').exec(tag)?.[1] ?? '');

/**
 * A mail as expectations read it: `mail.subject`, `.preview_text`, `.text`, `.size` (bytes of its HTML), `.links` with
 * address and text, `.pictures` with address and alt, and `.shown`, the names of the nodes that showed. What is not asked
 * for is not made.
 */
export function mailRecord(mail: Mail, shown: () => string[], reads: ReadonlySet<string>): Fields {
  const { html } = mail;
  return {
    subject: mail.subject,
    preview_text: mail.preview_text,
    ...(reads.has('text') && { text: mail.text }),
    ...(reads.has('size') && { size: new TextEncoder().encode(html).length }),
    ...(reads.has('links') && {
      links: [...html.matchAll(LINK)].map(([, address = '', inside = '']) => ({
        address: unescape(address),
        text: unescape(inside.replace(/<[^>]*>/g, ' '))
          .replace(/\s+/g, ' ')
          .trim(),
      })),
    }),
    ...(reads.has('pictures') && {
      pictures: [...html.matchAll(PICTURE)].map(([tag]) => ({
        address: attribute(tag, 'src'),
        alt: attribute(tag, 'alt'),
      })),
    }),
    ...(reads.has('shown') && { shown: shown() }),
  } as Fields;
}
