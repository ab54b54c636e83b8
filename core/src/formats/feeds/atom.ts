import { readDateCell } from '../cells';
import { attribute, children, childText, textOf, xmlText, type XmlElement } from '../xml';
import { finishFeed, type Feed, type RawPost } from './post';

function linkOf(element: XmlElement, rel: string): XmlElement | undefined {
  return children(element, 'link').find((link) => (attribute(link, 'rel') ?? 'alternate') === rel);
}

/** Text, HTML or XHTML (RFC 4287, 3.1) as HTML. */
function htmlOf(element: XmlElement, name: string): string | undefined {
  const [found] = children(element, name);
  if (!found) return undefined;
  const raw = textOf(found);
  const type = attribute(found, 'type') ?? 'text';
  if (type === 'xhtml') return raw;
  const text = xmlText(raw);
  return type === 'html' ? text : text.replace(/&/g, '&amp;').replace(/</g, '&lt;');
}

function rawPost(entry: XmlElement): RawPost {
  const date = childText(entry, 'published') ?? childText(entry, 'updated');
  const enclosure = linkOf(entry, 'enclosure');
  const picture = attribute(enclosure, 'type')?.startsWith('image/')
    ? attribute(enclosure, 'href')
    : undefined;
  const [thumbnail] = children(entry, 'media:thumbnail');
  return {
    guid: childText(entry, 'id'),
    title: childText(entry, 'title'),
    link: attribute(linkOf(entry, 'alternate'), 'href'),
    author: childText(children(entry, 'author')[0], 'name'),
    published_at: date === undefined ? undefined : (readDateCell(date, 'iso') ?? date),
    summary: htmlOf(entry, 'summary'),
    content: htmlOf(entry, 'content'),
    image: picture ?? attribute(thumbnail, 'url'),
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
    childText(feed, 'title') ?? '',
    attribute(linkOf(feed, 'alternate'), 'href'),
    children(feed, 'entry').map(rawPost),
  );
}
