export type Direction = 'ltr' | 'rtl';

/** Scripts that are written from right to left (ISO 15924), as mails use them. */
const FROM_THE_RIGHT: ReadonlySet<string> = new Set(
  'Adlm Arab Hebr Mand Nkoo Rohg Samr Syrc Thaa'.split(' '),
);

/** The direction of a language (BCP 47) by the script that it is usually written in. */
export function directionOf(language: string): Direction {
  try {
    const { script = '' } = new Intl.Locale(language).maximize();
    return FROM_THE_RIGHT.has(script) ? 'rtl' : 'ltr';
  } catch {
    return 'ltr'; // this is no language tag
  }
}
