/** What a shop can choose from: by the names of things, found by their codes as well. */
export interface Choice {
  value: string;
  label: string;
}

const names = (type: 'currency' | 'language') => new Intl.DisplayNames(['en-GB'], { type });
const byLabel = (a: Choice, b: Choice) => a.label.localeCompare(b.label, 'en-GB');

/** Every currency that browsers know: “Pound sterling (GBP)”. */
export function currencyChoices(): Choice[] {
  const name = names('currency');
  return Intl.supportedValuesOf('currency')
    .map((value) => ({ value, label: `${name.of(value) ?? value} (${value})` }))
    .sort(byLabel);
}

const LOCALES =
  'bg-BG ca-ES cs-CZ cy-GB da-DK de-AT de-CH de-DE el-GR en-AU en-CA en-GB en-IE en-IN en-NZ en-US en-ZA es-AR es-ES es-MX et-EE fi-FI fr-BE fr-CA fr-CH fr-FR ga-IE hr-HR hu-HU id-ID is-IS it-CH it-IT ja-JP ko-KR lt-LT lv-LV nb-NO nl-BE nl-NL pl-PL pt-BR pt-PT ro-RO sk-SK sl-SI sv-SE tr-TR uk-UA vi-VN zh-CN zh-TW'.split(
    ' ',
  );

/** Languages as countries write them: “German (Austria)”. */
export function languageChoices(): Choice[] {
  const name = new Intl.DisplayNames(['en-GB'], { type: 'language', languageDisplay: 'standard' });
  return LOCALES.map((value) => ({ value, label: name.of(value) ?? value })).sort(byLabel);
}

/** Every time zone that browsers know, by its place: “Europe, London”. */
export function timezoneChoices(): Choice[] {
  return [...Intl.supportedValuesOf('timeZone'), 'UTC'].map((value) => ({
    value,
    label: value.replaceAll('_', ' ').replaceAll('/', ', '),
  }));
}

/** The choices with what is chosen already among them, whatever it is called. */
export function withChosen(choices: Choice[], chosen: string): Choice[] {
  if (chosen === '' || choices.some(({ value }) => value === chosen)) return choices;
  return [{ value: chosen, label: chosen }, ...choices];
}
