import { z } from 'zod';
import { defineStart } from '../define';

export const postPublished = defineStart({
  kind: 'post_published',
  name: 'A post is published',
  description: 'Within minutes of the feed’s being fetched.',
  schema: z.strictObject({ kind: z.literal('post_published'), feed: z.string().max(100) }),
  make: () => ({ kind: 'post_published' as const, feed: '' }),
  fields: [{ control: 'feed', path: 'feed', before: 'In' }],
  say: ({ feed }) => `When ${feed === '' ? 'a feed' : `feeds.${feed}`} has a new post`,
  causes: ({ feed }, { happening, at }) =>
    happening?.kind === 'post' && happening.feed === feed
      ? [
          {
            cause: `post ${feed} ${happening.post}`,
            due: at,
            about: { feed, post: happening.post },
          },
        ]
      : [],
});
