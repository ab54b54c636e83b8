import type { LedgerEntry, LedgerQuestion } from '../sending';
import type { Occasion } from './occasion';
import { startKind } from './starts';
import { mailKey, type MadeMail, type Run } from './state';

/** The emails of a person as the rule of sending reads them. */
export const ledgerOf = (mails: readonly MadeMail[]): LedgerEntry[] =>
  mails.map((mail) => ({ ...mail, key: mailKey(mail.occasion, mail.cause, mail.step) }));

/** What is asked for a way that somebody is on: whatever it would send now, in milliseconds. */
export const askedOf = (
  { occasion: id, cause }: Pick<Run, 'occasion' | 'cause'>,
  { priority }: Occasion,
  at: number,
): LedgerQuestion => ({ key: '', occasion: id, cause, at, priority });

/** Longer than anybody lives, in days. */
const EVER = 100_000;

/** For how many days a person receives nothing of an occasion after an email of it, for another cause. */
export const restDaysOf = ({ start, whom }: Occasion): number =>
  startKind(start.kind).oncePerPerson?.(start) ? EVER : (whom.rest_days ?? 0);
