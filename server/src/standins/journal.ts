import { firstWords } from '@carafe/core/formats';
import { DEMO_FEEDS } from '@carafe/demo';
import { Router } from 'express';
import { z } from 'zod';
import type { Store } from '../database/store';
import { addressOf, isPublic } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import { asAtom, asJsonFeed, asRss, type JournalFeed } from './feeds';
import type { JournalRepository } from './journalRepository';

/** Words as XML can carry them: lines end as usual, what no reader of feeds may read is left out. */
const Words = z.string().transform((text) =>
  text
    .toWellFormed()
    .replace(/\r\n?|\v|\f/g, '\n')
    .replace(/[\0-\x08\x0E-\x1F\uFFFE\uFFFF]/g, ''),
);
const Publish = z.strictObject({
  title: Words.pipe(z.string().trim().min(1, 'A post needs a title.').max(300)),
  words: Words.pipe(z.string().trim().min(1, 'A post needs some text.').max(20_000)),
  author: Words.pipe(z.string().trim().max(200)).default('Hester Lovage'),
  image: z
    .string()
    .trim()
    .max(2000)
    .refine((image) => image === '' || isOpenAddress(image), {
      message: 'A picture has an address of the open web: https://…',
    })
    .optional(),
  category: Words.pipe(z.string().trim().max(100)).optional(),
});

/** Whether an address is one of the open web; the stand-ins' own pictures are, too. */
function isOpenAddress(written: string): boolean {
  if (written.startsWith('/pictures/')) return true;
  try {
    const { hostname } = addressOf(written, '');
    const host = hostname.replace(/^\[|\]$/g, '');
    return host !== 'localhost' && (!/^[\d.]+$|:/.test(host) || isPublic(host));
  } catch (error) {
    if (error instanceof Refusal) return false;
    throw error;
  }
}

const escaped = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

/** The stand-in journal: posts are published here, and read by feeds at addresses that stay. */
interface Given {
  store: Pick<Store, 'write'>;
  posts: JournalRepository;
  now: () => Date;
  newId: () => string;
}

export function journalRoutes({ store, posts, now, newId }: Given): Router {
  const router = Router();
  const feedOf = (id: string): JournalFeed => {
    const known = DEMO_FEEDS.find((feed) => feed.id === id);
    if (!known) throw new Refusal(404, `The journal has no feed “${id}”.`);
    return { ...known, posts: posts.list(id) };
  };
  router.get('/feeds.json', (_request, response) => {
    response.json({ feeds: DEMO_FEEDS.map(({ id }) => feedOf(id)) });
  });
  router.post('/:feed/posts', async (request, response) => {
    const { id, link } = feedOf(request.params.feed);
    const { title, words, author, image, category } = Publish.parse(request.body);
    const paragraphs = words.split(/\n{2,}/).map((p) => `<p>${escaped(p)}</p>`);
    const post = {
      guid: newId(),
      title,
      summary: firstWords(words.split('\n')[0] ?? '', 200),
      content: paragraphs.join(''),
      image: image || null,
      author,
      category: category || null,
      published_at: now().toISOString(),
    };
    await store.write(() => posts.insert(id, post));
    response.status(201).json({ feed: id, link });
  });
  router.get('/:feed/rss.xml', (request, response) => {
    response.type('application/rss+xml').send(asRss(feedOf(request.params.feed)));
  });
  router.get('/:feed/atom.xml', (request, response) => {
    response.type('application/atom+xml').send(asAtom(feedOf(request.params.feed)));
  });
  router.get('/:feed/feed.json', (request, response) => {
    response
      .type('application/feed+json')
      .send(JSON.stringify(asJsonFeed(feedOf(request.params.feed))));
  });
  return router;
}
