import { STOP_REASONS } from '../sending';

/** Why somebody did not enter, why a way ended, or why an email was not created. */
export const REASONS = {
  ...STOP_REASONS,
  touched: 'The cart was changed again, so the wait starts over',
  segment: 'Is not one of the people it is for',
  guest: 'Is a guest, and guests are left out',
  inside: 'Is already inside for the same cause',
  answered: 'Another occasion already responds to this',
  too_late: 'Carafe learned of it too late',
  waited: 'A guard was not met before its time limit',
} as const;
export type Reason = keyof typeof REASONS;
