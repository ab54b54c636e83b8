/** Why an email is not sent, for good. */
export const STOP_REASONS = {
  switched_off: 'The occasion was switched off',
  step_off: 'This email is switched off',
  no_template: 'The step has no template',
  unknown_person: 'This person was deleted',
  refused: 'The mail server has refused this address',
  gone: 'Its cause no longer exists',
  elsewhere: 'This email went to another address of the same person',
  guard: 'A guard no longer holds',
  consent: 'Has not agreed to marketing',
  rest: 'Received this occasion’s email not long ago',
  a_day: 'Has received the most marketing emails for one day',
  a_week: 'Has received the most marketing emails for one week',
} as const;
export type StopReason = keyof typeof STOP_REASONS;

/** Why an email waits for somebody’s approval. */
export const HOLD_REASONS = {
  step: 'Emails from this step need approval',
  crowd: 'More people entered this occasion within an hour than the shop allows',
  twice_a_minute: 'Another marketing email went to this address within a minute',
  same_subject: 'An email with the same subject went to this address within a day',
  template: 'Its template needs attention',
  sender: 'The mail server does not accept the sender',
  failed: 'It could not be filled',
} as const;
export type HoldReason = keyof typeof HOLD_REASONS;

/** Why an email goes later. */
export type PostponeReason = 'a_day' | 'a_week' | 'priority';
