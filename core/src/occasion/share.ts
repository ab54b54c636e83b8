import type { Moment } from './define';
import type { SendStep } from './occasion';
import type { Reason } from './reasons';
import type { ShopRules } from './shopRules';
import type { MadeMail } from './state';

const DAY = 86_400_000;

/** A mail that a person had, as far as their share of mails goes: when, in milliseconds. */
type Had = Pick<MadeMail, 'at' | 'marketing'>;

/** Why one more marketing mail would be too many; null where it is not. `at` in milliseconds. */
export function overShare(mails: readonly Had[], at: number, rules: ShopRules): Reason | null {
  const within = (days: number) =>
    mails.filter((one) => one.marketing && at - one.at < days * DAY).length;
  if (rules.most_a_day > 0 && within(1) >= rules.most_a_day) return 'a_day';
  if (rules.most_a_week > 0 && within(7) >= rules.most_a_week) return 'a_week';
  return null;
}

/** Why a mail is not made now; null where it is. */
export function mayMail(
  step: SendStep,
  { mails }: { mails: readonly Had[] },
  { at, person, rules }: Pick<Moment, 'at' | 'person' | 'rules'>,
): Reason | null {
  if (step.mode === 'off') return 'step_off';
  if (step.template === '') return 'no_template';
  // The owner asks for their own mails, and service is owed to whoever ordered.
  if (step.to === 'owner' || step.mail === 'service') return null;
  if ((person as Record<string, unknown>)['consent'] !== true) return 'consent';
  return overShare(mails, at, rules);
}
