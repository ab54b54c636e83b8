import { mailHtml } from '../formats/feeds/clean';

/** So many pieces are kept, the latest: the posts of a mail are the same for everybody. */
const MOST_KEPT = 100;
const kept = new Map<string, string>();

/** HTML of somebody else, such as of a post, as it may stand inside a mail. */
export function safeMarkup(html: string): string {
  const known = kept.get(html);
  if (known !== undefined) return known;
  const clean = mailHtml(html);
  kept.set(html, clean);
  const [oldest] = kept.keys();
  if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest);
  return clean;
}
