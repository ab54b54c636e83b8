import { Parser } from 'htmlparser2';
import sanitizeHtml from 'sanitize-html';
import { shallowHtml } from '../formats/shallowHtml';
import { withoutPlaceholders } from './placeholders';

/** What writes the pieces: values, and addresses that are made safe. */
export interface PieceWriter {
  running(text: string, place: 'html' | 'attribute' | 'plain', path: string): string;
  url(text: string, path: string, scheme?: 'link' | 'picture'): string;
  ifAddress(
    text: string,
    path: string,
    scheme: 'link' | 'picture',
    body: string,
    other?: string,
  ): string;
}

const TAGS =
  'a abbr b blockquote br center code col colgroup div em font h1 h2 h3 h4 h5 h6 hr i img li ol p pre s small span strong sub sup table tbody td tfoot th thead tr u ul'.split(
    ' ',
  );
const EVERYWHERE = 'align bgcolor class dir height id lang role style title valign width'.split(
  ' ',
);
const STYLES =
  'background background-color border border-bottom border-collapse border-color border-left border-radius border-right border-spacing border-style border-top border-width color direction display font font-family font-size font-style font-weight height letter-spacing line-height list-style list-style-type margin margin-bottom margin-left margin-right margin-top max-width min-width mso-line-height-rule mso-padding-alt overflow-wrap padding padding-bottom padding-left padding-right padding-top table-layout text-align text-decoration text-indent text-transform vertical-align white-space width word-break'.split(
    ' ',
  );
/** A value of a style loads nothing and runs nothing. */
const QUIET = [/^(?!.*(?:url|expression|javascript|@import|[<>\\]))/i];
/** Deeper than any email; what is nested deeper loses its tags, not its words. */
const MOST_NESTED = 200;
const VOID = new Set(['br', 'col', 'hr', 'img']);
const BREAKS = new Set(
  'blockquote br center div h1 h2 h3 h4 h5 h6 hr li ol p pre table tr ul'.split(' '),
);

/** Merge tags stand in for themselves as one word: their quotes mean nothing to HTML. */
const TOKEN = /carafetag(\d+)x/g;

/** Some HTML with its merge tags as words, and what they were. */
export function withTokens(source: string): { html: string; tags: string[] } {
  const tags: string[] = [];
  const html = withoutPlaceholders(source)
    .replace(TOKEN, 'carafetag $1')
    .replace(/\{\{[^{}]*\}\}/g, (tag) => `carafetag${tags.push(tag) - 1}x`);
  return { html, tags };
}

/** Puts the merge tags back. */
export const untoken = (text: string, tags: readonly string[]): string =>
  text.replace(TOKEN, (_, n: string) => tags[Number(n)] ?? '');

/** Only what a mail may hold. */
export function cleaned(html: string): string {
  return sanitizeHtml(shallowHtml(html, MOST_NESTED), {
    allowedTags: TAGS,
    allowedAttributes: {
      '*': EVERYWHERE,
      a: ['href', 'name'],
      font: ['color', 'face', 'size'],
      img: ['src', 'alt', 'border'],
      table: ['border', 'cellpadding', 'cellspacing'],
      td: ['colspan', 'rowspan'],
      th: ['colspan', 'rowspan', 'scope'],
    },
    allowedSchemes: ['http', 'https', 'mailto', 'tel'],
    allowedStyles: { '*': Object.fromEntries(STYLES.map((name) => [name, QUIET])) },
  });
}

/** What of some HTML cannot stand in a mail, by name. */
export function leftOut(source: string): string[] {
  const names = new Set<string>();
  const parser = new Parser({
    onopentag(name, attributes) {
      if (!TAGS.includes(name)) names.add(name);
      for (const attribute of Object.keys(attributes))
        if (attribute.startsWith('on')) names.add(attribute);
    },
  });
  parser.end(withTokens(source).html);
  return [...names];
}

interface Open {
  name: string;
  attributes: Record<string, string>;
  html: string;
}

/**
 * HTML of a designer's own for inside a mail: cleaned by a list of what mails may hold, its merge tags
 * live, each escaped for where it stands. A link without an address leaves its words, a picture nothing.
 */
export function rawHtml(source: string, path: string, writer: PieceWriter): string {
  const { html, tags } = withTokens(source);
  const root: Open = { name: '', attributes: {}, html: '' };
  const open: Open[] = [root];
  const put = (text: string) => void ((open.at(-1) ?? root).html += text);
  const attributesOf = ({ name, attributes }: Open): string =>
    Object.entries(attributes)
      .filter(([attribute]) => attribute !== 'href' && attribute !== 'src')
      .map(
        ([attribute, value]) =>
          ` ${attribute}="${writer.running(untoken(value, tags), 'attribute', path)}"`,
      )
      .join('') + (name === 'a' ? ' target="_blank"' : '');
  const write = (element: Open): string => {
    const { name, attributes, html: inside } = element;
    const address = (attribute: string) => untoken(attributes[attribute] ?? '', tags);
    const rest = attributesOf(element);
    if (name === 'img') {
      const src = address('src');
      const image = `<img src="${writer.url(src, path, 'picture')}"${rest}>`;
      return writer.ifAddress(src, path, 'picture', image);
    }
    if (name === 'a' && attributes['href'] !== undefined) {
      const href = address('href');
      return writer.ifAddress(
        href,
        path,
        'link',
        `<a href="${writer.url(href, path)}"${rest}>${inside}</a>`,
        inside,
      );
    }
    return VOID.has(name) ? `<${name}${rest}>` : `<${name}${rest}>${inside}</${name}>`;
  };
  const parser = new Parser(
    {
      onopentag: (name, attributes) => void open.push({ name, attributes, html: '' }),
      ontext: (text) => put(writer.running(untoken(text, tags), 'html', path)),
      onclosetag() {
        const element = open.pop();
        if (element) put(write(element));
      },
    },
    { decodeEntities: true },
  );
  parser.end(cleaned(html));
  return root.html;
}

/** The words of the same, for the plain text. */
export function rawText(source: string, path: string, writer: PieceWriter): string {
  const { html, tags } = withTokens(source);
  let text = '';
  const parser = new Parser(
    {
      ontext: (words) => {
        text += writer.running(untoken(words.replace(/\s+/g, ' '), tags), 'plain', path);
      },
      onclosetag(name) {
        if (BREAKS.has(name)) text += '\n';
        else if (name === 'td' || name === 'th') text += ' ';
      },
    },
    { decodeEntities: true },
  );
  parser.end(cleaned(html));
  return text
    .replace(/[ \t]*\n[ \t]*/g, '\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim();
}
