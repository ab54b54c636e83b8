import { z } from 'zod';
import { shorten } from '../cells';
import { FormatError } from '../formatError';
import { finishFeed, type Feed } from './post';

const Author = z.object({ name: z.string().optional() });
const Item = z.object({
  id: z.coerce.string(),
  url: z.string().optional(),
  title: z.string().optional(),
  summary: z.string().optional(),
  content_html: z.string().optional(),
  content_text: z.string().optional(),
  image: z.string().optional(),
  banner_image: z.string().optional(),
  date_published: z.string().optional(),
  tags: z.array(z.string()).optional(),
  authors: z.array(Author).optional(),
  attachments: z.array(z.object({ url: z.string(), mime_type: z.string() })).optional(),
});

/** A feed as JSON Feed 1.1 writes it (jsonfeed.org/version/1.1). */
const JsonFeed = z.object({
  version: z.string().startsWith('https://jsonfeed.org/version/'),
  title: z.string(),
  home_page_url: z.string().optional(),
  authors: z.array(Author).optional(),
  items: z.array(z.unknown()),
});

/** An item as the format wants it. Throws a FormatError that names the item and what is wrong with it. */
function itemOf(given: unknown, index: number): z.infer<typeof Item> {
  const read = Item.safeParse(given);
  if (read.success) return read.data;
  const title = (given as { title?: unknown } | null)?.title;
  const called = typeof title === 'string' && title !== '' ? ` (“${shorten(title)}”)` : '';
  const at = read.error.issues[0]?.path.join('.') ?? '';
  throw new FormatError(
    `Entry ${index + 1}${called} of this feed: ${at === '' ? 'it' : `its “${at}”`} is not what JSON Feed 1.1 asks for.`,
  );
}

const paragraphs = (text: string) =>
  text
    .split(/\n{2,}/)
    .map((p) => `<p>${p.replace(/&/g, '&amp;').replace(/</g, '&lt;')}</p>`)
    .join('');

/** Reads a JSON Feed; null where the document is none. */
export function readJsonFeed(document: unknown): Feed | null {
  const read = JsonFeed.safeParse(document);
  if (!read.success) return null;
  const { title, home_page_url, authors, items } = read.data;
  return finishFeed(
    title,
    home_page_url,
    items.map(itemOf).map((item) => ({
      guid: item.id,
      title: item.title,
      link: item.url,
      author: (item.authors ?? authors)?.[0]?.name,
      published_at: item.date_published,
      summary: item.summary,
      content: item.content_html ?? (item.content_text && paragraphs(item.content_text)),
      image:
        item.image ??
        item.banner_image ??
        item.attachments?.find(({ mime_type }) => mime_type.startsWith('image/'))?.url,
      categories: item.tags ?? [],
    })),
  );
}
