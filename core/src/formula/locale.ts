import { formatPattern } from './datePattern';
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
  const styles = remember(
    8,
    (style: string) => new Intl.DateTimeFormat(tag, { ...STYLES[style], timeZone: timezone }),
  );
  const plurals = new Intl.PluralRules(tag);
  return {
    tag,
    timezone,
    money: (value, currency) => money(currency.toUpperCase())(value),
    number: (value, decimals = -1) => numbers(decimals)(value),
    percent: (value, decimals) => percents(decimals).format(value),
    date: (date, style) =>
      Object.hasOwn(STYLES, style)
        ? styles(style).format(date)
        : formatPattern(date, style, tag, timezone),
    isOne: (value) => plurals.select(value) === 'one',
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

/**
 * The locale of the first tag and the first zone that are known; en-GB and UTC when none is.
 * Give the recipient's first, then the shop's.
 */
export function localeOf(tags: readonly unknown[], zones: readonly unknown[]): Locale {
  return built(firstValid(tags, tagOk, 'en-GB'))(firstValid(zones, zoneOk, 'UTC'));
}
