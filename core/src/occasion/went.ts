import { mailKey, type MadeMail, type PersonState } from './state';

/** What became of a mail after it was made: when it went, in milliseconds; null where it never did. */
export type Went = number | null;

/**
 * A state with the mails that a person had as they had them: one that was stopped or bounced is none, and one that was held
 * counts from when it went. What is left out of `went`, by the keys of mails, went when it was made, or is about to.
 */
export function asMailsWent(state: PersonState, went: ReadonlyMap<string, Went>): PersonState {
  if (went.size === 0) return state;
  let isOther = false;
  const mails = state.mails.flatMap((one) => {
    const at = went.get(mailKey(one.occasion, one.cause, one.step));
    if (at === undefined || at === one.at) return one;
    isOther = true;
    return at === null ? [] : { ...one, at };
  });
  return isOther ? { ...state, mails: mails.sort((a, b) => a.at - b.at) } : state;
}

/** What is kept of a state that was advanced as its mails went: all that were made, as they were made. What became of them may change. */
export function asMailsMade(made: PersonState, advanced: PersonState): PersonState {
  const keyOf = (one: MadeMail) => mailKey(one.occasion, one.cause, one.step);
  const known = new Set(made.mails.map(keyOf));
  const since = advanced.mails.filter((one) => !known.has(keyOf(one)));
  return { ...advanced, mails: [...made.mails, ...since] };
}
