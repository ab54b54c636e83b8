import { readDateCell } from '../dateCells';
import { attribute, children, childText, textOf, xmlHtml, type XmlElement } from '../xml';
import { finishFeed, isWeb, type Feed, type RawPost } from './post';

/** Whether an enclosure or medium is a picture: by its type, else by its address. */
function isPicture(medium: XmlElement): boolean {
  const type = attribute(medium, 'type');
  if (type) return type.startsWith('image/');
  if (attribute(medium, 'medium')) return attribute(medium, 'medium') === 'image';
  return /\.(?:png|jpe?g|gif|webp|avif)(?:\?|$)/i.test(attribute(medium, 'url') ?? '');
}

/** The picture of an item: an enclosure, Media RSS content, its thumbnail, or an itunes picture. */
export function pictureOf(item: XmlElement): string | undefined {
  const media = [item, ...children(item, 'media:group')];
  const enclosed = children(item, 'enclosure').find(isPicture);
  const content = media.flatMap((m) => children(m, 'media:content')).find(isPicture);
  const [thumbnail] = media.flatMap((m) => children(m, 'media:thumbnail'));
  return (
    attribute(enclosed, 'url') ??
    attribute(content, 'url') ??
    attribute(thumbnail, 'url') ??
    attribute(children(item, 'itunes:image')[0], 'href')
  );
}

const htmlOf = (element: XmlElement, name: string): string | undefined => {
  const raw = childText(element, name);
  return raw === undefined ? undefined : xmlHtml(raw);
};

/** What tells an item apart is its address as well, unless it says that it is none. */
function permanentLink(item: XmlElement): string | undefined {
  const [guid] = children(item, 'guid');
  const address = textOf(guid);
  return attribute(guid, 'isPermaLink') !== 'false' && isWeb(address) ? address : undefined;
}

function rawPost(item: XmlElement): RawPost {
  const date = childText(item, 'pubDate') ?? childText(item, 'dc:date');
  const content = htmlOf(item, 'content:encoded');
  const description = htmlOf(item, 'description');
  return {
    guid: childText(item, 'guid'),
    title: htmlOf(item, 'title'),
    link: childText(item, 'link') ?? permanentLink(item),
    // `author` is an address in RSS; the name stands in brackets behind it.
    author:
      childText(item, 'dc:creator') ??
      childText(item, 'author')?.replace(/^\S+@\S+\s*\((.*)\)$/, '$1'),
    published_at: date === undefined ? undefined : (readDateCell(date, 'mail') ?? date),
    summary: content === undefined ? undefined : description,
    content: content ?? description,
    image: pictureOf(item),
    categories: children(item, 'category').map(textOf),
  };
}

/** Reads RSS 2.0 (rssboard.org/rss-specification) with the modules for content, media and Dublin Core. */
export function readRss(document: XmlElement): Feed | null {
  const [rss] = children(document, 'rss');
  const [channel] = children(rss, 'channel');
  if (!channel) return null;
  return finishFeed(
    htmlOf(channel, 'title') ?? '',
    childText(channel, 'link'),
    children(channel, 'item').map(rawPost),
  );
}
