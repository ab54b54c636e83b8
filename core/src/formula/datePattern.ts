/**
 * Unicode date patterns (UTS #35, Date Field Symbols), the part that mails need: y M d E H h m s a,
 * text in single quotes, two quotes for one.
 */
const FIELD = /''|'(?:[^']|'')*'|([yMLdEHhmsa])\1*|[^']/gu;

/** Formats that were made: making one costs a hundred times what using it does. */
const formats = new Map<string, Intl.DateTimeFormat>();
const MAX_FORMATS = 500;

function formatFor(tag: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${tag} ${JSON.stringify(options)}`;
  let format = formats.get(key);
  if (!format) {
    if (formats.size >= MAX_FORMATS) formats.clear();
    format = new Intl.DateTimeFormat(tag, options);
    formats.set(key, format);
  }
  return format;
}

function part(date: Date, tag: string, options: Intl.DateTimeFormatOptions, type: string): string {
  const parts = formatFor(tag, options).formatToParts(date);
  return parts.find((p) => p.type === type)?.value ?? '';
}

function pad(value: string, length: number): string {
  return value.padStart(length, '0');
}

const WIDTH = ['numeric', '2-digit', 'short', 'long', 'narrow'] as const;

function field(date: Date, symbol: string, tag: string, timeZone: string): string {
  const letter = symbol[0];
  const length = symbol.length;
  const numeric = (options: Intl.DateTimeFormatOptions, type: string) =>
    part(date, 'en-GB-u-ca-gregory-nu-latn', { ...options, timeZone }, type);
  switch (letter) {
    case 'y': {
      const year = numeric({ year: 'numeric' }, 'year');
      return length === 2 ? pad(year.slice(-2), 2) : pad(year, length);
    }
    case 'M':
    case 'L': {
      if (length <= 2) return pad(numeric({ month: 'numeric' }, 'month'), length);
      const month = WIDTH[Math.min(length, 5) - 1] ?? 'long';
      // With a day beside it a month takes the form it has in a date ("de mars", "1. März").
      return part(
        date,
        tag,
        letter === 'M' ? { month, day: 'numeric', timeZone } : { month, timeZone },
        'month',
      );
    }
    case 'd':
      return pad(numeric({ day: 'numeric' }, 'day'), length);
    case 'E': {
      const weekday = length < 4 ? 'short' : length === 4 ? 'long' : 'narrow';
      return part(date, tag, { weekday, timeZone }, 'weekday');
    }
    case 'H':
      return pad(
        numeric({ hour: 'numeric', hourCycle: 'h23' }, 'hour').replace(/^0(?=\d)/, ''),
        length,
      );
    case 'h': {
      const hour = Number(numeric({ hour: 'numeric', hourCycle: 'h23' }, 'hour')) % 12;
      return pad(String(hour === 0 ? 12 : hour), length);
    }
    case 'm':
      return pad(
        numeric({ hour: 'numeric', minute: 'numeric' }, 'minute').replace(/^0(?=\d)/, ''),
        length,
      );
    case 's':
      return pad(
        numeric({ minute: 'numeric', second: 'numeric' }, 'second').replace(/^0(?=\d)/, ''),
        length,
      );
    default:
      return part(date, tag, { hour: 'numeric', hour12: true, timeZone }, 'dayPeriod');
  }
}

/** Prints a date by a Unicode pattern; undefined when the pattern holds a letter it does not know. */
export function formatPattern(
  date: Date,
  pattern: string,
  tag: string,
  timezone: string,
): string | undefined {
  if (pattern.length > 200) return undefined;
  let out = '';
  for (const [symbol, letter] of pattern.matchAll(FIELD)) {
    if (letter) out += symbol.length > 9 ? '' : field(date, symbol, tag, timezone);
    else if (symbol === "''") out += "'";
    else if (symbol.startsWith("'")) out += symbol.slice(1, -1).replace(/''/g, "'");
    else if (/[A-Za-z]/.test(symbol)) return undefined;
    else out += symbol;
  }
  return out === '' ? undefined : out;
}
