import { Parser } from 'htmlparser2';
import { MAX_TEXT } from '../bounds';
import { characterSteps, charactersOf, firstCharacters } from '../characters';
import { miss, spend } from '../context';
import { textSteps, toNumber } from '../values';
import { argument, boundedText, givenText, ofText, type FormulaFunction } from './define';

function upperFirst(word: string, tag: string): string {
  if (word === '') return '';
  const first = String.fromCodePoint(word.codePointAt(0) ?? 0);
  return first.toLocaleUpperCase(tag) + word.slice(first.length);
}

/** A single letter with its apostrophe, as in O’Hara; looked for at the end of a few characters. */
const LONE_LETTER = /(?:^|[^\p{L}\p{N}])\p{L}['’]$/u;

/** An apostrophe inside a word, not a quote before one. */
const IN_WORD = /[\p{L}\p{N}\p{M}]['’]$/u;

/** Raises the first letter of each word; after an apostrophe only behind a single letter (O’Hara, don’t). */
export function titleCase(text: string, tag: string): string {
  return text
    .toLocaleLowerCase(tag)
    .replace(/[\p{L}\p{N}\p{M}]+/gu, (word, offset: number, whole: string) => {
      const before = whole.slice(Math.max(0, offset - 4), offset);
      return IN_WORD.test(before) && !LONE_LETTER.test(before) ? word : upperFirst(word, tag);
    });
}

function sentenceCase(text: string, tag: string): string {
  return text.replace(/\p{L}/u, (letter) => letter.toLocaleUpperCase(tag));
}

/** At most `n` characters, the last of them `…` where something was cut, at a space if there is one. */
export function shorten(given: string, n: number): string {
  const text = given.trim();
  const first = firstCharacters(text, n + 1);
  if (first.length <= n) return text;
  if (n < 1) return '';
  let end = n - 1;
  if (!isSpace(first[end])) {
    const word = first.slice(0, end).findLastIndex(isSpace);
    if (word > 0) end = word;
  }
  return `${first.slice(0, end).join('').trimEnd()}…`;
}

const isSpace = (character: string | undefined) =>
  character !== undefined && character.trim() === '';

/** The text of a piece of HTML: tags dropped, entities read, scripts and styles left out. */
export function plainText(html: string): string {
  let out = '';
  let silent = 0;
  const parser = new Parser(
    {
      onopentagname(name) {
        if (name === 'script' || name === 'style') silent++;
        if (/^(?:br|p|div|li|tr|h[1-6])$/.test(name)) out += ' ';
      },
      ontext(text) {
        if (silent === 0) out += text;
      },
      onclosetag(name) {
        if (name === 'script' || name === 'style') silent = Math.max(0, silent - 1);
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  return out.replace(/\s+/gu, ' ').trim();
}

function initials(text: string, tag: string): string {
  return (text.match(/\S+/gu) ?? [])
    .map((word) => {
      const at = word.search(/[\p{L}\p{N}]/u);
      const [first = ''] = at < 0 ? [] : firstCharacters(word.slice(at), 1);
      return upperFirst(first, tag);
    })
    .join('');
}

export const TEXT_FUNCTIONS: FormulaFunction[] = [
  ofText('text', 'upper', 'All letters raised.', (text, tag) => text.toLocaleUpperCase(tag)),
  ofText('text', 'lower', 'All letters lowered.', (text, tag) => text.toLocaleLowerCase(tag)),
  ofText('text', 'title', 'The first letter of each word raised.', titleCase, {
    steps: ({ length }) => length >> 2,
  }),
  ofText('text', 'sentence', 'The first letter raised, the rest left.', sentenceCase),
  ofText('text', 'trim', 'Without white space at both ends.', (text) => text.trim()),
  ofText('text', 'length', 'How many characters.', (text) => charactersOf(text).length, {
    gives: 'number',
    steps: characterSteps,
  }),
  ofText('text', 'initials', 'The first letters of the words.', initials, {
    steps: ({ length }) => length >> 2,
  }),
  ofText('text', 'urlencode', 'Written for use inside a web address.', (text) =>
    encodeURIComponent(text.toWellFormed()),
  ),
  ofText('text', 'plain', 'The text of a piece of HTML.', plainText, {
    steps: ({ length }) => length >> 1,
  }),
  {
    name: 'shorten',
    group: 'text',
    usage: 'shorten(text, characters)',
    description: 'At most so many characters, cut at a space, with an ellipsis.',
    least: 2,
    most: 2,
    takes: ['text', 'number'],
    gives: 'text',
    make(args, call) {
      const of = argument(args, 0);
      const limit = argument(args, 1);
      return (c) => {
        const text = givenText(of(c), c);
        const n = toNumber(limit(c));
        if (text === undefined || n === undefined)
          return miss(c, call, '“shorten” needs a text and a number.');
        spend(c, textSteps(text.length) + characterSteps(text.slice(0, 8 * Math.max(0, n))));
        return shorten(text, Math.floor(n));
      };
    },
  },
  {
    name: 'replace',
    group: 'text',
    usage: 'replace(text, what, with)',
    description: 'Each “what” in the text replaced.',
    least: 3,
    most: 3,
    takes: ['text', 'text', 'text'],
    gives: 'text',
    make(args, call) {
      const [of, from, to] = [argument(args, 0), argument(args, 1), argument(args, 2)];
      return (c) => {
        const text = givenText(of(c), c);
        const what = givenText(from(c), c);
        const by = givenText(to(c), c) ?? '';
        if (text === undefined || what === undefined)
          return miss(c, call, '“replace” needs a text and what to replace in it.');
        if (what === '') return text;
        spend(c, textSteps(text.length));
        const pieces = text.split(what);
        spend(c, pieces.length);
        // Checked before joining: the joined text could be far larger than memory.
        if ((pieces.length - 1) * by.length > MAX_TEXT)
          return miss(c, call, `A text has at most ${MAX_TEXT} characters.`);
        return boundedText(pieces.join(by));
      };
    },
  },
];
