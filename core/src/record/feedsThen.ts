import { isList, isRecord, toDate, toValue, type Fields } from '../formula';
import { epochAt } from './epochAt';

const NEVER = Number.NEGATIVE_INFINITY;

/** When a post came out, in milliseconds; a post without a date was always there. */
function cameOut(post: unknown): number {
  const date = isRecord(post) ? toDate(toValue(post['published_at'])) : undefined;
  return date ? date.getTime() : NEVER;
}

/**
 * Feeds as they were at instants of the past: without the posts that came out later. For all instants between two posts
 * the very same feeds are given, so that what is put together of them can be kept.
 */
export function feedsThen(feeds: Fields): (at: number) => Fields {
  const postsOf = (feed: unknown): readonly unknown[] => {
    const posts = isRecord(feed) ? feed['posts'] : undefined;
    return isList(posts) ? posts : [];
  };
  const all = Object.values(feeds).flatMap((feed) => postsOf(feed).map(cameOut));
  const times = [...new Set(all)].filter((time) => time > NEVER).sort((a, b) => a - b);
  const known = new Map<number, Fields>();
  return (at) => {
    const epoch = epochAt(times, at);
    if (epoch === times.length) return feeds;
    const found = known.get(epoch);
    if (found) return found;
    const then = Object.fromEntries(
      Object.entries(feeds).map(([name, feed]) => {
        if (!isRecord(feed) || !isList(feed['posts'])) return [name, feed];
        return [name, { ...feed, posts: feed['posts'].filter((post) => cameOut(post) <= at) }];
      }),
    ) as Fields;
    known.set(epoch, then);
    return then;
  };
}
