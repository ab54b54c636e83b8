import { XMLBuilder } from 'fast-xml-parser';
import type { JournalPost } from './journalRepository';

/** A feed of the stand-in journal. */
export interface JournalFeed {
  id: string;
  title: string;
  link: string;
  posts: readonly JournalPost[];
}

const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true });
const HEAD = { '?xml': { '@version': '1.0', '@encoding': 'UTF-8' } };
const linkOf = (feed: JournalFeed, { guid }: JournalPost) => `${feed.link}${guid}`;

/** RSS 2.0, with the content module. */
export function asRss(feed: JournalFeed): string {
  return builder.build({
    ...HEAD,
    rss: {
      '@version': '2.0',
      '@xmlns:content': 'http://purl.org/rss/1.0/modules/content/',
      '@xmlns:dc': 'http://purl.org/dc/elements/1.1/',
      channel: {
        title: feed.title,
        link: feed.link,
        description: feed.title,
        item: feed.posts.map((post) => ({
          title: post.title,
          link: linkOf(feed, post),
          guid: { '@isPermaLink': 'false', '#text': post.guid },
          pubDate: new Date(post.published_at).toUTCString(),
          'dc:creator': post.author,
          ...(post.category && { category: post.category }),
          description: post.summary,
          'content:encoded': post.content,
          ...(post.image && {
            enclosure: { '@url': post.image, '@type': 'image/png', '@length': 0 },
          }),
        })),
      },
    },
  });
}

/** Atom (RFC 4287). */
export function asAtom(feed: JournalFeed): string {
  return builder.build({
    ...HEAD,
    feed: {
      '@xmlns': 'http://www.w3.org/2005/Atom',
      id: feed.link,
      title: feed.title,
      updated: feed.posts[0]?.published_at ?? '1970-01-01T00:00:00Z',
      link: { '@rel': 'alternate', '@href': feed.link },
      entry: feed.posts.map((post) => ({
        id: post.guid,
        title: post.title,
        updated: post.published_at,
        published: post.published_at,
        author: { name: post.author },
        link: [
          { '@rel': 'alternate', '@href': linkOf(feed, post) },
          ...(post.image
            ? [{ '@rel': 'enclosure', '@type': 'image/png', '@href': post.image }]
            : []),
        ],
        ...(post.category && { category: { '@term': post.category } }),
        summary: post.summary,
        content: { '@type': 'html', '#text': post.content },
      })),
    },
  });
}

/** JSON Feed 1.1. */
export function asJsonFeed(feed: JournalFeed): object {
  return {
    version: 'https://jsonfeed.org/version/1.1',
    title: feed.title,
    home_page_url: feed.link,
    items: feed.posts.map((post) => ({
      id: post.guid,
      url: linkOf(feed, post),
      title: post.title,
      summary: post.summary,
      content_html: post.content,
      ...(post.image && { image: post.image }),
      date_published: post.published_at,
      authors: [{ name: post.author }],
      ...(post.category && { tags: [post.category] }),
    })),
  };
}
