import { STOP_REASONS } from '../sending';

/** Why somebody did not enter, why a way ended, or why an email was not created. */
export const REASONS = {
  ...STOP_REASONS,
  touched: 'The cart was changed again, so the wait begins anew',
  segment: 'Is not among the people it is for',
  guest: 'Is a guest, and guests are left out',
  inside: 'Is already inside for the same cause',
  answered: 'Another occasion has answered this',
  too_late: 'It became known too late',
  waited: 'A guard was asked again until its time was over',
} as const;
export type Reason = keyof typeof REASONS;
