import { maySend, type SendAnswer } from '../sending';
import { besideOf } from './beside';
import type { Moment } from './define';
import { ledgerOf, restDaysOf } from './ledger';
import type { SendStep } from './occasion';
import { guardsFor, type Plan } from './plan';
import { mailKey, type PersonState, type Run } from './state';

/** Whether a step's email is created now, by the one rule of sending. `stands`: whether its cause still exists. */
export function mayCreate(
  { occasion }: Plan,
  step: SendStep,
  run: Run,
  state: PersonState,
  moment: Moment,
  stands: boolean,
): SendAnswer {
  const { at, person, refused, rules } = moment;
  const { consent } = person as Record<string, unknown>;
  return maySend({
    at,
    email: {
      ...{ key: mailKey(run.occasion, run.cause, step.id), occasion: run.occasion },
      ...{ cause: run.cause, marketing: step.mail === 'marketing', toOwner: step.to === 'owner' },
      ...{ priority: occasion.priority, subject: null },
    },
    isOn: true,
    step,
    person: { consent: consent === true, refused },
    causeStands: () => stands,
    sentElsewhere: () => moment.sentElsewhere(run.occasion, run.cause, step.id),
    failedGuard: () => {
      const guards = guardsFor(occasion.steps, step.id);
      if (guards.length === 0) return null;
      const beside = besideOf(run, state, moment);
      return guards.find(({ when }) => !moment.holds(when, beside))?.id ?? null;
    },
    ledger: () => ledgerOf(state.mails),
    limits: rules,
    overLimit: occasion.over_limit ?? 'postpone',
    restDays: restDaysOf(occasion),
    recent: () => [],
    approved: new Set(),
  });
}
