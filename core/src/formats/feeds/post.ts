import { readDate } from '../../formula';
import { cleanHtml, wholeAddress, wordsOf } from './clean';

/** A post as formulas read it. `content` is HTML that was cleaned for mail, `summary` is plain words. */
export interface Post {
  /** What tells posts apart; a post without cannot be taken. */
  guid?: string;
  title: string;
  link?: string;
  author?: string;
  /** ISO 8601; as the feed writes it where that is no date. */
  published_at?: string;
  summary?: string;
  content?: string;
  image?: string;
  categories: string[];
}

/** A feed with its posts, newest first. */
export interface Feed {
  title: string;
  link?: string;
  posts: Post[];
}

/** What a format found of a post, before it is made whole. */
export interface RawPost {
  guid: string | undefined;
  title: string | undefined;
  link: string | undefined;
  author: string | undefined;
  published_at: string | undefined;
  summary: string | undefined;
  /** HTML. */
  content: string | undefined;
  image: string | undefined;
  categories: string[];
}

const SUMMARY_LENGTH = 240;

/** The first words of a text, ended at a sentence or a word. */
export function firstWords(text: string, length = SUMMARY_LENGTH): string {
  if (text.length <= length) return text;
  const cut = text.slice(0, length);
  const sentence = Math.max(
    ...['. ', '! ', '? ', '。', '！', '？'].map((end) => cut.lastIndexOf(end)),
  );
  if (sentence > length / 2) return cut.slice(0, sentence + 1);
  const space = cut.lastIndexOf(' ');
  // Half a letter is none.
  const whole = cut.slice(0, space > 0 ? space : length - 1).replace(/[\uD800-\uDBFF]$/, '');
  return `${whole.replace(/[,;:–-]+$/, '')}…`;
}

export const isWeb = (url: string | undefined): url is string =>
  url !== undefined && /^https?:\/\//i.test(url);

/** The address of the first picture in clean HTML. */
function firstPicture(html: string): string | undefined {
  const found = /<img\b[^>]*\bsrc="([^"]+)"/i.exec(html)?.[1]?.replace(/&amp;/g, '&');
  return isWeb(found) ? found : undefined;
}

/**
 * Makes a post whole: content cleaned, a picture found, a summary made where none is given, addresses that are
 * written from the feed’s home on made whole.
 */
export function finishPost(raw: RawPost, home?: string): Post {
  const guid = raw.guid ?? raw.link;
  const title = raw.title && wordsOf(raw.title);
  const link = raw.link && wholeAddress(raw.link, home);
  const base = isWeb(link) ? link : home;
  const content = raw.content && cleanHtml(raw.content, base);
  const given = raw.summary && wordsOf(raw.summary);
  const summary = given || (content && firstWords(wordsOf(content)));
  const named = raw.image && wholeAddress(raw.image, base);
  const image = isWeb(named)
    ? named
    : firstPicture(content || (raw.summary ? cleanHtml(raw.summary, base) : ''));
  const post: Post = {
    title: title || firstWords(summary || '', 80),
    categories: raw.categories.map(wordsOf).filter((name) => name !== ''),
  };
  if (guid) post.guid = guid;
  if (isWeb(link)) post.link = link;
  if (raw.author) post.author = wordsOf(raw.author);
  if (raw.published_at) post.published_at = raw.published_at;
  if (summary) post.summary = summary;
  if (content) post.content = content;
  if (image) post.image = image;
  return post;
}

/** Posts newest first; those without a date stand last. None is passed over: what cannot be taken is told later. */
export function finishFeed(title: string, link: string | undefined, raw: RawPost[]): Feed {
  const at = ({ published_at }: Post) => readDate(published_at ?? '')?.getTime() ?? 0;
  const home = isWeb(link) ? link : undefined;
  const posts = raw.map((one) => finishPost(one, home)).sort((a, b) => at(b) - at(a));
  return { title: wordsOf(title), ...(isWeb(link) && { link }), posts };
}
