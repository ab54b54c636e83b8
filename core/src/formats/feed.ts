import { z } from 'zod';

const Item = z.object({
  id: z.coerce.string(),
  url: z.string().optional(),
  title: z.string().optional(),
  summary: z.string().optional(),
  content_text: z.string().optional(),
  image: z.string().optional(),
  date_published: z.string().optional(),
  tags: z.array(z.string()).optional(),
  authors: z.array(z.object({ name: z.string().optional() })).optional(),
});

/** A feed as JSON Feed 1.1 writes it (jsonfeed.org/version/1.1). */
const JsonFeed = z.object({
  version: z.string().startsWith('https://jsonfeed.org/version/'),
  title: z.string(),
  home_page_url: z.string().optional(),
  items: z.array(Item).max(10_000),
});

export interface Feed {
  title: string;
  link?: string;
  posts: Record<string, unknown>[];
}

/** Reads a JSON Feed into posts, newest first. Throws a ZodError where it is none. */
export function readJsonFeed(document: unknown): Feed {
  const feed = JsonFeed.parse(document);
  const posts = feed.items.map((item) => ({
    id: item.id,
    title: item.title,
    link: item.url,
    author: item.authors?.[0]?.name,
    published_at: item.date_published,
    summary: item.summary,
    content: item.content_text,
    image: item.image,
    categories: item.tags ?? [],
  }));
  posts.sort((a, b) => (b.published_at ?? '').localeCompare(a.published_at ?? ''));
  return { title: feed.title, ...(feed.home_page_url && { link: feed.home_page_url }), posts };
}
