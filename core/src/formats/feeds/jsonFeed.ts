import { z } from 'zod';
import { shorten } from '../cells';
import { FormatError } from '../formatError';
import { asHtml } from '../xml';
import { finishFeed, type Feed } from './post';

const Author = z.object({ name: z.string().optional() });
const Item = z.object({
  id: z.union([z.string(), z.number()]).optional(),
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
  // As version 1 has it.
  author: Author.optional(),
  attachments: z.array(z.object({ url: z.string(), mime_type: z.string() })).optional(),
});

/** A feed as JSON Feed 1.1 writes it (jsonfeed.org/version/1.1). */
const JsonFeed = z.object({
  version: z.string().startsWith('https://jsonfeed.org/version/'),
  title: z.string().default(''),
  home_page_url: z.string().optional(),
  authors: z.array(Author).optional(),
  author: Author.optional(),
  items: z.array(z.unknown()),
});

/** Without what is said to be nothing: many feeds write null where they have no value. */
function withoutNulls(value: unknown): unknown {
  if (Array.isArray(value)) return value.filter((one) => one !== null).map(withoutNulls);
  if (typeof value !== 'object' || value === null) return value;
  const said = Object.entries(value).filter(([, one]) => one !== null);
  return Object.fromEntries(said.map(([name, one]) => [name, withoutNulls(one)]));
}

/** An item as the format wants it. Throws a FormatError that names the item and what is wrong with it. */
function itemOf(given: unknown, index: number): z.infer<typeof Item> {
  const read = Item.safeParse(withoutNulls(given));
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
    .split(/(?:\r?\n){2,}/)
    .map((p) => `<p>${asHtml(p)}</p>`)
    .join('');

/** Reads a JSON Feed; null where the document is none. */
export function readJsonFeed(document: unknown): Feed | null {
  // Items are read one by one, so that a bad one is named.
  const { items: all, ...head } = Object(document) as { items?: unknown };
  const read = JsonFeed.safeParse({ ...(withoutNulls(head) as object), items: all });
  if (!read.success) return null;
  const { title, home_page_url, authors = [], author, items } = read.data;
  const byAll = [...authors, author];
  return finishFeed(
    title,
    home_page_url,
    items.map(itemOf).map((item) => ({
      guid: item.id === undefined || item.id === '' ? undefined : String(item.id),
      title: item.title,
      link: item.url,
      author: [...(item.authors ?? []), item.author, ...byAll].find((one) => one?.name)?.name,
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
