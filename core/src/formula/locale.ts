import { formatPattern } from './datePattern';
import { Day, dayIn, instantIn, wallIn } from './days';
import { remember } from './remember';

/** How a recipient reads numbers, money and dates. Built once a locale and zone, then shared. */
export interface Locale {
  /** BCP 47 tag. */
  readonly tag: string;
  /** IANA zone. */
  readonly timezone: string;
  money(value: number, currency: string): string | undefined;
  number(value: number, decimals?: number): string;
  percent(value: number, decimals: number): string;
  date(date: Date, style: string): string | undefined;
  /** The calendar day of a date. */
  day(date: Date): Day;
  /** What clocks show at a date, as the milliseconds at which clocks of UTC show the same. */
  wall(date: Date): number;
  /** Milliseconds of the instant that a date stands for: of a day, the midnight that begins it. */
  instant(date: Date): number;
  isOne(value: number): boolean;
}

function validTag(tag: string): boolean {
  if (tag === '') return false;
  try {
    return Intl.NumberFormat.supportedLocalesOf([tag]).length > 0;
  } catch {
    return false; // a malformed tag: the next candidate is asked
  }
}

function validZone(zone: string): boolean {
  if (zone === '') return false;
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false; // an unknown zone: the next candidate is asked
  }
}

const STYLES: Record<string, Intl.DateTimeFormatOptions> = {
  short: { dateStyle: 'short' },
  medium: { dateStyle: 'medium' },
  long: { dateStyle: 'long' },
  weekday: { weekday: 'long' },
  time: { timeStyle: 'short' },
};
/** The named styles of `date(d, style)`. */
export const DATE_STYLES: readonly string[] = Object.keys(STYLES);

/** Negative zero, and what rounds to it, is written without a sign. */
const SIGN = { signDisplay: 'negative' } as const;

/** Prices and quantities recur from recipient to recipient; formatting is dear beside finding. */
const KEPT = 2_000;

/** ISO 4217 codes. Making a format is dear, so that only what is a currency gets one. */
const CURRENCIES: ReadonlySet<string> = new Set(Intl.supportedValuesOf('currency'));

/** Whether money can be printed in a currency: an ISO 4217 code. */
export function isCurrency(code: string): boolean {
  return CURRENCIES.has(code);
}

/** Whether times can be printed in a time zone: an IANA name. */
export function isTimeZone(name: string): boolean {
  try {
    return name !== '' && new Intl.DateTimeFormat('en', { timeZone: name }) !== undefined;
  } catch {
    return false; // Intl knows no such zone
  }
}

/** Whether a language can be printed in: a BCP 47 tag. */
export function isLocale(tag: string): boolean {
  try {
    return Intl.DateTimeFormat.supportedLocalesOf([tag]).length > 0;
  } catch {
    return false; // this is no language tag
  }
}

function moneyFormat(tag: string): (currency: string) => (value: number) => string | undefined {
  return remember(CURRENCIES.size + 100, (currency) => {
    if (!CURRENCIES.has(currency)) return () => undefined;
    const format = new Intl.NumberFormat(tag, { style: 'currency', currency, ...SIGN });
    return remember(KEPT, (value: number) => format.format(value));
  });
}

function build(tag: string, timezone: string): Locale {
  const money = moneyFormat(tag);
  const numbers = remember(32, (decimals: number) => {
    const digits = { minimumFractionDigits: decimals, maximumFractionDigits: decimals };
    const format = new Intl.NumberFormat(tag, { ...SIGN, ...(decimals >= 0 && digits) });
    return remember(KEPT, (value: number) => format.format(value));
  });
  const percents = remember(
    32,
    (decimals: number) =>
      new Intl.NumberFormat(tag, {
        style: 'percent',
        ...SIGN,
        minimumFractionDigits: decimals,
        maximumFractionDigits: decimals,
      }),
  );
  const styles = (timeZone: string) =>
    remember(8, (style: string) => new Intl.DateTimeFormat(tag, { ...STYLES[style], timeZone }));
  const [instants, days] = [styles(timezone), styles('UTC')];
  const plurals = new Intl.PluralRules(tag);
  return {
    tag,
    timezone,
    money: (value, currency) => money(currency.toUpperCase())(value),
    number: (value, decimals = -1) => numbers(decimals)(value),
    percent: (value, decimals) => percents(decimals).format(value),
    date: (date, style) => {
      const isDay = date instanceof Day;
      return Object.hasOwn(STYLES, style)
        ? (isDay ? days : instants)(style).format(date)
        : formatPattern(date, style, tag, isDay ? 'UTC' : timezone);
    },
    day: (date) => dayIn(date, timezone),
    wall: (date) => wallIn(date, timezone),
    instant: (date) => instantIn(date, timezone),
    isOne: remember(KEPT, (value: number) => plurals.select(value) === 'one'),
  };
}

const built = remember(60, (tag: string) => remember(60, (zone: string) => build(tag, zone)));
const tagOk = remember(500, validTag);
const zoneOk = remember(500, validZone);

function firstValid(
  given: readonly unknown[],
  ok: (text: string) => boolean,
  last: string,
): string {
  for (const text of given) if (typeof text === 'string' && ok(text)) return text;
  return last;
}

/** A language tag as BCP 47 writes it: systems also write de_DE.UTF-8. */
function asTag(given: unknown): unknown {
  return typeof given === 'string' ? given.replace(/[.@].*$/s, '').replaceAll('_', '-') : given;
}

/**
 * The locale of the first tag and the first zone that are known; en-GB and UTC when none is.
 * Give the recipient's first, then the shop's.
 */
export function localeOf(tags: readonly unknown[], zones: readonly unknown[]): Locale {
  return built(firstValid(tags.map(asTag), tagOk, 'en-GB'))(firstValid(zones, zoneOk, 'UTC'));
}
