import { nameOf, shortened } from '../ask';
import { defineCheck } from '../define';
import { TAG, writtenWords } from '../written';

const OPENING: Record<string, string> = { '{': '}', '[': ']', '<': '>', '(': ')' };
/** Marks that close as they open. */
const ALIKE = '*|%$#@~^';
/** These alone stress words, and stand for nothing. */
const STRESS = /^(?:\*+|~+|\^+|\|+|\(+)$/;
const escaped = (mark: string): string => mark.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&');
const NAME = '[\\p{L}_][\\p{L}\\p{N}_.:-]*';
const mirrored = (marks: string): string =>
  [...marks]
    .reverse()
    .map((mark) => OPENING[mark] ?? mark)
    .join('');

/** Marks that stand alone in ordinary words as well: with them only a name that is one word is meant. */
const SINGLE = ['{', '[', '%', '$', '#', '@', '<'];

/** A name between marks that mirror each other: `%%name%%`, `<%= name %>`, `[First name]`. */
function candidates(words: string): string[] {
  const opened = new RegExp(
    `([${escaped(`${Object.keys(OPENING).join('')}${ALIKE}`)}]{1,3})[-=~]?(\\s*)(${NAME}(?:[ |]${NAME}){0,4})(\\s*)`,
    'gu',
  );
  return [...words.matchAll(opened)].flatMap((found) => {
    const [all, marks = '', before = '', name = '', after = ''] = found;
    const rest = words.slice(found.index + all.length);
    for (let length = marks.length; length > 0; length--) {
      // Words before may end in a mark of their own: the innermost marks are enough.
      const own = marks.slice(marks.length - length);
      if (!rest.replace(/^[-~]/, '').startsWith(mirrored(own))) continue;
      const isOne = own.length === 1;
      if (isOne && !SINGLE.includes(own)) return [];
      const isBracket = own === '[' || own === '<' || own === '{';
      if (isOne && !isBracket && (/\s/.test(name) || before + after !== '')) return [];
      if (STRESS.test(own)) return [];
      return [`${own}${before}${name}${after}${mirrored(own)}`];
    }
    return [];
  });
}

export const otherTags = defineCheck({
  name: 'other_tags',
  label: 'No placeholders of another template language are left',
  find: ({ template }) =>
    writtenWords(template).flatMap(({ node, path, words }) => {
      const [first] = candidates(words.replaceAll(TAG, ' '));
      return first === undefined
        ? []
        : [
            {
              ...{ severity: 'warning' as const, node, path },
              message: `“${shortened(first)}” in “${nameOf(template, node)}” looks like a placeholder of another program, and people would read it as it stands. Insert a field with {{ instead.`,
            },
          ];
    }),
});
