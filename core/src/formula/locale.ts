import { formatPattern } from './datepattern';

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

function validTag(tag: unknown): tag is string {
  if (typeof tag !== 'string' || tag === '') return false;
  try {
    return Intl.NumberFormat.supportedLocalesOf([tag]).length > 0;
  } catch {
    return false; // a malformed tag: the next candidate is asked
  }
}

function validZone(zone: unknown): zone is string {
  if (typeof zone !== 'string' || zone === '') return false;
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

/** Keeps what `make` gives for a key; forgets all when it holds more than `limit`. */
function remember<K, V>(limit: number, make: (key: K) => V): (key: K) => V {
  const kept = new Map<K, V>();
  return (key) => {
    let value = kept.get(key);
    if (value === undefined) {
      if (kept.size >= limit) kept.clear();
      value = make(key);
      kept.set(key, value);
    }
    return value;
  };
}

function moneyFormat(tag: string): (currency: string) => (value: number) => string | undefined {
  return remember(64, (currency) => {
    if (!/^[A-Za-z]{3}$/.test(currency)) return () => undefined;
    const format = new Intl.NumberFormat(tag, { style: 'currency', currency });
    // Prices recur from recipient to recipient; formatting one is dear beside finding it.
    return remember(2_000, (value: number) => format.format(value));
  });
}

function build(tag: string, timezone: string): Locale {
  const money = moneyFormat(tag);
  const numbers = remember(
    32,
    (decimals: number) =>
      new Intl.NumberFormat(
        tag,
        decimals < 0 ? {} : { minimumFractionDigits: decimals, maximumFractionDigits: decimals },
      ),
  );
  const percents = remember(
    32,
    (decimals: number) =>
      new Intl.NumberFormat(tag, {
        style: 'percent',
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
    number: (value, decimals = -1) => numbers(decimals).format(value),
    percent: (value, decimals) => percents(decimals).format(value),
    date: (date, style) =>
      Object.hasOwn(STYLES, style)
        ? styles(style).format(date)
        : formatPattern(date, style, tag, timezone),
    isOne: (value) => plurals.select(value) === 'one',
  };
}

const built = remember(200, (key: string) => {
  const [tag = 'en-GB', timezone = 'UTC'] = key.split('|');
  return build(tag, timezone);
});

/**
 * The locale of the first tag and the first zone that are known; en-GB and UTC when none is.
 * Give the recipient's first, then the shop's.
 */
export function localeOf(tags: readonly unknown[], zones: readonly unknown[]): Locale {
  return built(chosen(tags, zones));
}

const tagOk = remember(500, (tag: string) => (validTag(tag) ? 1 : 0));
const zoneOk = remember(500, (zone: string) => (validZone(zone) ? 1 : 0));

function chosen(tags: readonly unknown[], zones: readonly unknown[]): string {
  const tag = tags.find((t): t is string => typeof t === 'string' && tagOk(t) === 1) ?? 'en-GB';
  const zone = zones.find((z): z is string => typeof z === 'string' && zoneOk(z) === 1) ?? 'UTC';
  return `${tag}|${zone}`;
}
