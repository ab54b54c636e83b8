import type { BuildFinding } from '../build';

/** In bytes. Some mail programs show no more than about so much of a mail. */
const HEAVY = 100_000;

/** What a mail's HTML weighs, in bytes of UTF-8. */
export function weightOf(html: string): number {
  return new TextEncoder().encode(html).length;
}

/** A weight in kilobytes, as it is said: with a tenth while it is small. */
export function sayWeight(bytes: number): string {
  const digits = bytes < HEAVY ? 1 : 0;
  const options = { minimumFractionDigits: digits, maximumFractionDigits: digits };
  return `${(bytes / 1000).toLocaleString('en-GB', options)} KB`;
}

/** A mail that some programs would cut off; null where it is lighter. */
export function weightFinding(bytes: number): BuildFinding | null {
  if (bytes <= HEAVY) return null;
  return {
    severity: 'warning',
    node: '',
    path: 'weight',
    message: `This recipient’s email weighs ${sayWeight(bytes)}, and some email clients cut off what is over 100 KB. Show fewer members of its lists, or shorten its texts.`,
  };
}
