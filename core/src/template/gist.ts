import { walkInlines, type RichText } from './richText';

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

/** The same of a text of paragraphs and lists. */
export function richGist(text: RichText): string {
  let said = '';
  for (const block of text.content) {
    walkInlines({ type: 'doc', content: [block] }, (inline) => {
      if (inline.type === 'text') said += inline.text;
      else said += inline.type === 'tag' ? `{{ ${inline.attrs.formula} }}` : ' ';
    });
    said += ' ';
  }
  return gist(said.trim());
}
