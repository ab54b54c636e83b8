/** A section of a filled mail, from the comment that begins it to the one that ends it. */
export interface MailSection {
  id: string;
  html: string;
}
/** The HTML of a mail, taken apart. */
export interface CutMail {
  before: string;
  sections: MailSection[];
  after: string;
}

const BOUND = /<!--(?:node ([^>]*)|\/node)-->/g;

/**
 * Takes the HTML of a mail for a canvas apart at its outermost nodes. Null where these do not stand one right after
 * the other, each once.
 */
export function cutMail(html: string): CutMail | null {
  const sections: MailSection[] = [];
  const ids = new Set<string>();
  let depth = 0;
  let from = -1;
  let end = -1;
  let id = '';
  for (const { 0: bound, 1: node, index } of html.matchAll(BOUND)) {
    if (node !== undefined) {
      if (depth++ > 0) continue;
      if (end >= 0 && end !== index) return null;
      from = index;
      id = node;
    } else if (--depth === 0) {
      end = index + bound.length;
      if (ids.has(id)) return null;
      ids.add(id);
      sections.push({ id, html: html.slice(from, end) });
    } else if (depth < 0) return null;
  }
  const first = sections[0];
  if (!first || depth !== 0) return null;
  const start = end - sections.reduce((sum, section) => sum + section.html.length, 0);
  return { before: html.slice(0, start), sections, after: html.slice(end) };
}
