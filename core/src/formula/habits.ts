import type { Repair } from './finding';
import { MAX_LENGTH } from './bounds';
import { RESERVED } from './lex';
import { parse, type ParseProblem } from './parse';

/** Something that is written otherwise in other languages, and how it is written here. */
interface Habit {
  /** What is looked for outside of texts in quotes. */
  found: RegExp;
  message: string | ((found: string) => string);
  instead: string | ((...parts: string[]) => string);
}

const swapped = (found: RegExp, instead: string): Habit => ({
  found,
  message: (it) => `“${it.trim()}” is written “${instead.trim()}” here.`,
  instead,
});

const WORDS = 'AND|OR|NOT|IS|IN|CONTAINS|WHERE|OTHERWISE|TRUE|FALSE|EMPTY|FILLED|MISSING';

/** What cannot be part of a name. */
const BARE = [...RESERVED].join('|');

/** Looked for one after the other; the first that is found says what is wrong. */
const HABITS: readonly Habit[] = [
  { found: /^\s*=/, message: 'A formula begins without “=”.', instead: '' },
  {
    found: /\{\{|\}\}/g,
    message: 'Write the formula without braces. Only merge tags in text have them.',
    instead: '',
  },
  {
    found: /'([^'"]*)'|[‘‚]([^’‘"]*)[’‘]/g,
    message: 'Put text in double quotes.',
    instead: (_, straight = '', curly = '') => `"${straight || curly}"`,
  },
  swapped(/!==|<>|≠|~=/g, '!='),
  swapped(/===?/g, '='),
  swapped(/≥|=>/g, '>='),
  swapped(/≤|=</g, '<='),
  swapped(/\s*&&\s*/g, ' and '),
  swapped(/\s*\|\|\s*/g, ' or '),
  swapped(/!(?!=)\s*/g, 'not '),
  {
    found: /(\d+(?:\.\d+)?)\s*%/g,
    message: 'Write a percentage as a number: 0.2 is 20 %.',
    instead: (_, number = '0') => String(Number((Number(number) / 100).toFixed(12))),
  },
  {
    found: new RegExp(`\\b(?:${WORDS})\\b`, 'g'),
    message: (it) => `“${it}” is written “${it.toLowerCase()}” here.`,
    instead: (it) => it.toLowerCase(),
  },
  {
    found: /^\s*if\s+(.+?)\s+then\s+(.+?)(?:\s+else\s+(.+?))?\s*$/s,
    message: 'Write a choice as if(condition, then, else).',
    instead: (_, test = '', then = '', other = '') =>
      `if(${[test, then, other].filter((part) => part !== '').join(', ')})`,
  },
  swapped(/\s+(?:exists|is\s+present|is\s+set)\b/g, ' is filled'),
  swapped(/\s+is\s+not\s+(?:null|blank|nothing|none)\b/g, ' is filled'),
  swapped(/\s+is\s+(?:null|blank|nothing|none)\b/g, ' is empty'),
  {
    found: /\b(\d{1,3})((?:,\d{3})+)(?!\d)/g,
    message: 'Write numbers without commas.',
    instead: (_, first = '', rest = '') => first + rest.replaceAll(',', ''),
  },
  {
    found: /^(.+?)(<=?|>=?)(.+?)(<=?|>=?)(.+)$/s,
    message: 'Join two comparisons with “and”.',
    instead: (_, a = '', first = '', x = '', second = '', b = '') =>
      `${a.trim()} ${first} ${x.trim()} and ${x.trim()} ${second} ${b.trim()}`,
  },
  {
    found: new RegExp(
      `\\b(?!(?:${BARE})\\b)([\\p{L}_][\\p{L}\\d_.]*) +(?!(?:${BARE})\\b)([\\p{L}_][\\p{L}\\d_]*)`,
      'u',
    ),
    message: 'Names have no spaces.',
    instead: (_, first = '', second = '') => `${first}_${second}`,
  },
];

const TEXT = /"(?:[^"\\]|\\.)*"/gs;

/** Puts something in place of what is found outside of texts in quotes; null where nothing is. */
function mended(source: string, { found, instead, message }: Habit) {
  const texts: string[] = [];
  // Texts are set aside: what stands in them is meant as it stands.
  const bare = source.replace(TEXT, (text) => `\u{E002}${texts.push(text) - 1}\u{E003}`);
  const first = bare.match(found)?.[0];
  if (first === undefined) return null;
  const text = bare
    .replace(found, instead as string)
    .replace(/\u{E002}(\d+)\u{E003}/gu, (_, place: string) => texts[Number(place)] ?? '');
  return { text: text.trim(), message: typeof message === 'string' ? message : message(first) };
}

/** What is wrong with the brackets of a formula, with the formula as it may be meant; null when all match. */
function brackets(source: string) {
  const open: { char: string; at: number }[] = [];
  const pair: Record<string, string> = { ')': '(', ']': '[' };
  const bare = source.replace(TEXT, (text) => ' '.repeat(text.length));
  for (let at = 0; at < bare.length; at++) {
    const char = bare[at] ?? '';
    if (char === '(' || char === '[') open.push({ char, at });
    else if (char in pair) {
      if (open.at(-1)?.char === pair[char]) open.pop();
      else
        return {
          message: `This “${char}” has no matching opening bracket.`,
          text: source.slice(0, at) + source.slice(at + 1),
        };
    }
  }
  const last = open.at(-1);
  if (!last) return null;
  const close = last.char === '(' ? ')' : ']';
  return {
    message: `The “${last.char}” in column ${last.at + 1} is never closed. A “${close}” is missing.`,
    text: source.trimEnd() + close,
  };
}

/** Curly quotes stand for straight ones, wherever texts begin and end by them. */
const straightened = (source: string) =>
  /[“”„«»]/.test(source)
    ? { message: 'Quotes are straight here: "…".', text: source.replace(/[“”„«»]/g, '"') }
    : null;

/** So many habits are mended one after the other before a repair is given up. */
const MOST = 8;

/**
 * What a person may have meant by a formula that does not parse: a sentence in their words, and the
 * whole formula as it is written here, where that parses. The problem itself where nothing is known.
 */
export function explainProblem(
  source: string,
  problem: ParseProblem,
): { message: string; repair?: Repair } {
  if (source.length > MAX_LENGTH) return { message: problem.message };
  let text = source;
  let message: string | null = null;
  for (let turn = 0; turn < MOST; turn++) {
    const step =
      straightened(text) ??
      HABITS.reduce<ReturnType<typeof mended>>((found, habit) => {
        const tried = found ?? mended(text, habit);
        return tried && tried.text !== text ? tried : found;
      }, null) ??
      brackets(text);
    if (!step || step.text === text) break;
    message ??= step.message;
    text = step.text;
    if (parse(text).ok) return { message, repair: { label: `Write ${inShort(text)}`, text } };
  }
  return { message: message ?? problem.message };
}

const inShort = (text: string) => (text.length > 40 ? `${text.slice(0, 39)}…` : text);
