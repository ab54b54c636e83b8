import type { RichBlock, RichText } from './richText';

const MAX_LENGTH = 60;

/** Words with tags, the tags as the last name in them: "Hello ‹first_name›". */
export function gist(text: string): string {
  const said = text.replace(/\{\{\s*([^}]*?)\s*\}\}/g, (_, formula: string) => {
    const names = formula.replace(/"[^"]*"/g, '').match(/[\p{L}_][\p{L}\p{Nd}_.]*/gu) ?? [];
    const path = names.find((name) => name.includes('.')) ?? names[0] ?? '';
    return `‹${path.split('.').at(-1) ?? ''}›`;
  });
  return said.length > MAX_LENGTH ? `${said.slice(0, MAX_LENGTH).trimEnd()}…` : said;
}

/** The words of a part of a text, a space after each paragraph. */
function saidBy(block: RichBlock): string {
  if (block.type !== 'paragraph')
    return block.content.flatMap(({ content }) => content.map(saidBy)).join('');
  const words = (block.content ?? []).map((inline) => {
    if (inline.type === 'text') return inline.text;
    return inline.type === 'tag' ? `{{ ${inline.attrs.formula} }}` : ' ';
  });
  return `${words.join('')} `;
}

/** The same of a text of paragraphs and lists. */
export function richGist(text: RichText): string {
  return gist(text.content.map(saidBy).join('').trim());
}
