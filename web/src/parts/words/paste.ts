import { wordsOf } from '../../words';

const t = wordsOf('parts');
/** What of a pasted page cannot stand in a text, in words. */
export interface Pasted {
  html: string;
  dropped: string[];
}

/** How a word processor marks a line of a list that it does not write as one: its level. */
function listLevel(paragraph: Element): number | null {
  const style = paragraph.getAttribute('style') ?? '';
  const level = /mso-list:\s*\S+\s+level(\d)/i.exec(style)?.[1];
  return level === undefined ? null : Number(level);
}

const ORDERED = /^\s*(?:\d+|[a-z]|[ivx]+)[.)]/i;

/** Takes the bullet or number off a line, which stands in it as words. */
function takeBullet(paragraph: Element): string {
  const marks = [...paragraph.querySelectorAll('[style*="mso-list" i]')].filter((mark) =>
    /mso-list:\s*ignore/i.test(mark.getAttribute('style') ?? ''),
  );
  const bullet = marks.map((mark) => mark.textContent).join('');
  marks.forEach((mark) => mark.remove());
  return bullet;
}

/** Paragraphs that a word processor means as a list become one, nested as their levels say. */
function makeLists(page: Document): void {
  let open: Element[] = [];
  let last: Element | null = null;
  for (const paragraph of page.querySelectorAll('p')) {
    const level = listLevel(paragraph);
    if (level === null) {
      open = [];
      continue;
    }
    const follows = paragraph.previousElementSibling === last && last !== null;
    if (!follows) open = [];
    const kind = ORDERED.test(takeBullet(paragraph)) ? 'ol' : 'ul';
    open.length = Math.min(open.length, level);
    while (open.length < level) {
      const list = page.createElement(kind);
      const parent = open.at(-1)?.lastElementChild;
      if (parent) parent.append(list);
      else if (open.length > 0) open.at(-1)?.append(page.createElement('li'), list);
      else paragraph.before(list);
      open.push(list);
    }
    const item = page.createElement('li');
    const line = page.createElement('p');
    line.append(...paragraph.childNodes);
    item.append(line);
    open.at(-1)?.append(item);
    [last] = open as [Element];
    paragraph.remove();
  }
}

/** Each row of a table becomes a line, its cells with a dot between. */
function makeLines(page: Document): boolean {
  const tables = [...page.querySelectorAll('table')].filter(
    (table) => !table.parentElement?.closest('table'),
  );
  for (const table of tables) {
    const lines = [...table.querySelectorAll('tr')]
      .filter((row) => !row.querySelector('table'))
      .map((row) => {
        const line = page.createElement('p');
        const cells = [...row.querySelectorAll('th, td')].filter((cell) => cell.textContent.trim());
        cells.forEach((cell, i) => {
          if (i > 0) line.append(' · ');
          line.append(...inlineOf(cell));
        });
        return line;
      })
      .filter((line) => line.textContent.trim() !== '');
    table.replaceWith(...lines);
  }
  return tables.length > 0;
}

/** What a cell holds, its paragraphs run together. */
function inlineOf(cell: Element): Node[] {
  return [...cell.childNodes].flatMap((node) =>
    node instanceof Element && /^(?:P|DIV|LI|UL|OL)$/.test(node.tagName)
      ? [...inlineOf(node), new Text(' ')]
      : [node],
  );
}

/**
 * Makes what was copied elsewhere ready for a text of paragraphs and lists: a word processor's lists
 * become lists, tables lines. What is left out is told.
 */
export function cleanPasted(html: string): Pasted {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const dropped: string[] = [];
  page.querySelectorAll('script, style, title, meta').forEach((element) => element.remove());
  // Word processors put lists into comments for older programs; what counts is beside them.
  makeLists(page);
  if (makeLines(page)) dropped.push('Tables became lines.');
  const pictures = page.querySelectorAll('img, picture, svg, video');
  if (pictures.length > 0) {
    pictures.forEach((element) => element.remove());
    dropped.push('Pictures were left out. Add a picture block for each one.');
  }
  if (page.querySelector('h1, h2, h3, h4, h5, h6')) {
    for (const heading of page.querySelectorAll('h1, h2, h3, h4, h5, h6')) {
      const line = page.createElement('p');
      const bold = page.createElement('strong');
      bold.append(...heading.childNodes);
      line.append(bold);
      heading.replaceWith(line);
    }
    dropped.push('Headings became bold lines. Use heading blocks for them.');
  }
  return { html: page.body.innerHTML, dropped };
}

/** Words pasted into one line: breaks are spaces. */
export const onOneLine = (text: string): string => text.replace(/\s*[\r\n]+\s*/g, ' ').trim();

/** A text of so many letters makes a mail that some programs cut off. */
const MUCH = 50_000;

/** What to say of how much was pasted; null where it is not much. */
export function weightOfPaste(text: string): string | null {
  if (text.length < MUCH) return null;
  const kilobytes = Math.round(new TextEncoder().encode(text).length / 1000);
  return t('numberCharactersWerePastedAboutKilobytes', {
    number: text.length.toLocaleString('en-GB'),
    kilobytes: kilobytes.toLocaleString('en-GB'),
  });
}
