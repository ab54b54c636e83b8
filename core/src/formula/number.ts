/** Writes the shortest decimal of a finite number without an exponent. */
function expand(value: number): string {
  const text = String(value);
  const cut = text.indexOf('e');
  if (cut < 0) return text;
  const sign = text.startsWith('-') ? '-' : '';
  const mantissa = text.slice(sign.length, cut);
  const exponent = Number(text.slice(cut + 1));
  const [whole = '', fraction = ''] = mantissa.split('.');
  const digits = whole + fraction;
  const point = whole.length + exponent;
  if (point <= 0) return `${sign}0.${'0'.repeat(-point)}${digits}`;
  return sign + digits.padEnd(point, '0');
}

/**
 * A number as running text shows it: no grouping, no exponent below 1e21, `-0` as `0`.
 * With `whole`, the exponent is written out above 1e21 as well (a formula has no exponents).
 */
export function plainNumber(value: number, whole = false): string {
  if (value === 0) return '0';
  return !whole && Math.abs(value) >= 1e21 ? String(value) : expand(value);
}

const JSON_NUMBER = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;

/** A number that anybody means is shorter; reading a longer one costs more than it tells. */
const MAX_NUMBER_LENGTH = 1_000;

/** The number that a text wholly is, in JSON's writing, or undefined. */
export function numberLike(text: string): number | undefined {
  if (text.length > MAX_NUMBER_LENGTH) return undefined;
  const first = text.charCodeAt(0);
  if (first !== 45 && !(first >= 48 && first <= 57)) return undefined;
  if (!JSON_NUMBER.test(text)) return undefined;
  const value = Number(text);
  return Number.isFinite(value) ? value : undefined;
}

/** Rounds the shortest decimal writing of a number, half away from zero. `decimals` 0 to 15. */
function roundDecimal(value: number, decimals: number): number {
  const [whole = '0', fraction = ''] = expand(Math.abs(value)).split('.');
  if (fraction.length <= decimals) return value;
  const kept = BigInt(whole + fraction.slice(0, decimals));
  const rounded = (fraction.charCodeAt(decimals) >= 53 ? kept + 1n : kept)
    .toString()
    .padStart(decimals + 1, '0');
  const point = rounded.length - decimals;
  const result = Number(`${rounded.slice(0, point)}.${rounded.slice(point)}`);
  return value < 0 ? -result : result;
}

/**
 * Rounds half away from zero to 0–15 decimals (negative decimals round to tens, hundreds …), on
 * the decimal writing that people see, so that 2.345 to two decimals is 2.35.
 */
export function roundTo(value: number, decimals: number): number {
  if (Number.isInteger(value) && decimals >= 0) return value;
  if (decimals < 0) {
    const unit = 10 ** Math.min(-decimals, 300);
    return Math.sign(value) * Math.round(Math.abs(value) / unit) * unit + 0;
  }
  if (decimals <= 10) {
    // Hot path: when the scaled value is exact enough and not near a half, plain arithmetic gives
    // the same double as the decimal writing.
    const scaled = Math.abs(value) * 10 ** decimals;
    const part = scaled - Math.floor(scaled);
    if (scaled < 1e12 && (part < 0.499 || part > 0.501)) {
      const result = Math.round(scaled) / 10 ** decimals;
      return value < 0 ? -result + 0 : result;
    }
  }
  return roundDecimal(value, Math.min(decimals, 15)) + 0;
}

/** What arithmetic gives: rounded to 10 decimals, undefined when not finite. */
export function settle(value: number): number | undefined {
  if (Number.isInteger(value)) return value + 0;
  return Number.isFinite(value) ? roundTo(value, 10) : undefined;
}

/**
 * The sum of numbers with what rounding lost added back (Neumaier, "Rundungsfehleranalyse einiger
 * Verfahren zur Summation endlicher Summen", 1974).
 */
export function neumaier(numbers: readonly number[]): number {
  let sum = 0;
  let lost = 0;
  for (const x of numbers) {
    const next = sum + x;
    lost += Math.abs(sum) >= Math.abs(x) ? sum - next + x : x - next + sum;
    sum = next;
  }
  // Past the greatest number there is nothing to add back.
  return Number.isFinite(sum) ? sum + lost : sum;
}
