/** Why somebody did not come in, why a way ended, or why a mail was not made. */
export const REASONS = {
  gone: 'What it was about is gone',
  touched: 'The cart was touched again, and waits anew',
  segment: 'Not among those it is for',
  guest: 'A guest, and guests are left out',
  rest: 'Had this not long ago',
  inside: 'Is inside already for the same thing',
  answered: 'Another occasion answered this',
  too_late: 'It was learned of too late',
  guard: 'A guard did not hold',
  waited: 'A guard was asked again until its time was over',
  consent: 'Did not agree to marketing',
  a_day: 'Has had the mails of a day',
  a_week: 'Has had the mails of a week',
  step_off: 'This mail is switched off',
  switched_off: 'The occasion was switched off',
  no_template: 'The step has no template',
} as const;
export type Reason = keyof typeof REASONS;
