import { readDateCell } from '../dateCells';
import { asHtml, attribute, children, childText, textOf, xmlText, type XmlElement } from '../xml';
import { finishFeed, type Feed, type RawPost } from './post';
import { pictureOf } from './rss';

const linksOf = (element: XmlElement, rel: string): XmlElement[] =>
  children(element, 'link').filter((link) => (attribute(link, 'rel') ?? 'alternate') === rel);
const addressOf = (element: XmlElement): string | undefined =>
  attribute(linksOf(element, 'alternate')[0], 'href');
const authorOf = (element: unknown): string | undefined =>
  childText(children(element, 'author')[0], 'name');

/** Text, HTML or XHTML (RFC 4287, 3.1) as HTML. */
function htmlOf(element: XmlElement, name: string): string | undefined {
  const [found] = children(element, name);
  if (!found) return undefined;
  const raw = textOf(found);
  const type = attribute(found, 'type') ?? 'text';
  if (type === 'xhtml') return raw;
  const text = xmlText(raw);
  return type === 'html' ? text : asHtml(text);
}

function rawPost(entry: XmlElement, feed: XmlElement): RawPost {
  const date = childText(entry, 'published') ?? childText(entry, 'updated');
  const picture = linksOf(entry, 'enclosure').find((link) =>
    attribute(link, 'type')?.startsWith('image/'),
  );
  return {
    guid: childText(entry, 'id'),
    title: htmlOf(entry, 'title'),
    link: addressOf(entry),
    author: authorOf(entry) ?? authorOf(children(entry, 'source')[0]) ?? authorOf(feed),
    published_at: date === undefined ? undefined : (readDateCell(date, 'iso') ?? date),
    summary: htmlOf(entry, 'summary'),
    content: htmlOf(entry, 'content'),
    image: attribute(picture, 'href') ?? pictureOf(entry),
    categories: children(entry, 'category').map(
      (category) => attribute(category, 'label') ?? attribute(category, 'term') ?? '',
    ),
  };
}

/** Reads Atom (RFC 4287). */
export function readAtom(document: XmlElement): Feed | null {
  const [feed] = children(document, 'feed');
  if (!feed) return null;
  return finishFeed(
    htmlOf(feed, 'title') ?? '',
    addressOf(feed),
    children(feed, 'entry').map((entry) => rawPost(entry, feed)),
  );
}
