import { remember } from './remember';

/**
 * Unicode date patterns (UTS #35, Date Field Symbols), the part that mails need: y M d E H h m s a,
 * text in single quotes, two quotes for one.
 */
const FIELD = /''|'(?:[^']|'')*'|([yMLdEHhmsa])\1*|[^']/gu;

/** Formats that were made: making one costs a hundred times what using it does. */
const formats = remember(
  500,
  (key: string): Intl.DateTimeFormat =>
    new Intl.DateTimeFormat(...(JSON.parse(key) as [string, Intl.DateTimeFormatOptions])),
);

const digits = remember(
  200,
  (key: string): Intl.NumberFormat =>
    new Intl.NumberFormat(...(JSON.parse(key) as [string, Intl.NumberFormatOptions])),
);

/** A whole number in the digits that a language writes dates in. */
function written(n: number, length: number, tag: string, numberingSystem: string): string {
  const options = {
    useGrouping: false,
    minimumIntegerDigits: Math.min(length, 21),
    numberingSystem,
  };
  return digits(JSON.stringify([tag, options])).format(n);
}

/** What a field needs to know of where it is printed. */
interface Place {
  date: Date;
  tag: string;
  timeZone: string;
  /** The language's calendar and digits, which hold for all fields alike. */
  calendar: string;
  numberingSystem: string;
}

function formatFor({ tag, timeZone }: Place, options: Intl.DateTimeFormatOptions) {
  return formats(JSON.stringify([tag, { ...options, timeZone }]));
}

function part(place: Place, options: Intl.DateTimeFormatOptions, type: string): string {
  const parts = formatFor(place, options).formatToParts(place.date);
  return parts.find((p) => p.type === type)?.value ?? '';
}

/** A field as a number, in the language's calendar. */
function numeric(place: Place, options: Intl.DateTimeFormatOptions, ...types: string[]): number {
  const plain = { ...place, tag: `en-GB-u-ca-${place.calendar}-nu-latn` };
  const parts = formatFor(plain, options).formatToParts(place.date);
  return Number(parts.find((p) => types.includes(p.type))?.value ?? 0);
}

const WIDTH = ['short', 'long', 'narrow'] as const;

/** A month by name: in a date it takes the form that stands beside a day ("de mars", "1. März"). */
function monthName(place: Place, letter: string, length: number): string {
  const month = WIDTH[Math.min(length, 5) - 3] ?? 'long';
  const beside = letter === 'M' ? part(place, { month, day: 'numeric' }, 'month') : '';
  // Some languages write the month beside a day as a number: then its name stands by itself.
  const isName = beside !== '' && !/^\p{N}+$/u.test(beside);
  return isName ? beside : formatFor(place, { month }).format(place.date);
}

function field(place: Place, symbol: string): string {
  const letter = symbol[0] ?? '';
  const { length } = symbol;
  const number = (n: number, least = length) => written(n, least, place.tag, place.numberingSystem);
  switch (letter) {
    case 'y': {
      const year = numeric(place, { year: 'numeric' }, 'year', 'relatedYear');
      return length === 2 ? number(Math.abs(year) % 100) : number(year);
    }
    case 'M':
    case 'L':
      return length <= 2
        ? number(numeric(place, { month: 'numeric' }, 'month'))
        : monthName(place, letter, length);
    case 'd':
      return number(numeric(place, { day: 'numeric' }, 'day'));
    case 'E': {
      const weekday = length < 4 ? 'short' : length === 4 ? 'long' : 'narrow';
      return part(place, { weekday }, 'weekday');
    }
    case 'H':
      return number(numeric(place, { hour: 'numeric', hourCycle: 'h23' }, 'hour'));
    case 'h':
      return number(numeric(place, { hour: 'numeric', hourCycle: 'h23' }, 'hour') % 12 || 12);
    case 'm':
      return number(numeric(place, { hour: 'numeric', minute: 'numeric' }, 'minute'));
    case 's':
      return number(numeric(place, { minute: 'numeric', second: 'numeric' }, 'second'));
    default:
      return part(place, { hour: 'numeric', hour12: true }, 'dayPeriod');
  }
}

/** The letters of a pattern that stand for nothing; none in one that can be printed. */
export function unknownLetters(pattern: string): string[] {
  const unknown = [...pattern.matchAll(FIELD)]
    .filter(([symbol, letter]) => (letter ? symbol.length > 9 : /^[A-Za-z]$/.test(symbol)))
    .map(([symbol]) => symbol);
  return [...new Set(unknown)];
}

const conventions = remember(200, (tag: string) => {
  const { calendar, numberingSystem } = new Intl.DateTimeFormat(tag).resolvedOptions();
  return { calendar, numberingSystem };
});

/** Prints a date by a Unicode pattern; undefined when the pattern holds a letter it does not know. */
export function formatPattern(
  date: Date,
  pattern: string,
  tag: string,
  timeZone: string,
): string | undefined {
  if (pattern.length > 200 || unknownLetters(pattern).length > 0) return undefined;
  const place: Place = { date, tag, timeZone, ...conventions(tag) };
  let out = '';
  for (const [symbol, letter] of pattern.matchAll(FIELD)) {
    if (letter) out += field(place, symbol);
    else if (symbol === "''") out += "'";
    else if (symbol.startsWith("'")) out += symbol.slice(1, -1).replace(/''/g, "'");
    else out += symbol;
  }
  return out === '' ? undefined : out;
}
