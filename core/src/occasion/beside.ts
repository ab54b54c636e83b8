import type { Fields } from '../formula';
import { standing } from '../record';
import type { Moment } from './define';
import { mailKey, type PersonState, type Run } from './state';

/**
 * What an occasion adds to the record, for guards, branches and its mails: `occasion` is its own past for this person,
 * `event` what it is about.
 */
export function besideOf(
  run: Pick<Run, 'occasion' | 'cause' | 'about' | 'entered' | 'mails' | 'cart'>,
  { mails }: Pick<PersonState, 'mails'>,
  { at, shopper, reacted }: Pick<Moment, 'at' | 'shopper'> & Partial<Pick<Moment, 'reacted'>>,
): Fields {
  const entered = run.entered ?? at;
  const before = mails.filter(({ occasion }) => occasion === run.occasion);
  const last = before.at(-1)?.at;
  const reactions = run.mails.map(({ step }) => reacted?.(mailKey(run.occasion, run.cause, step)));
  return {
    occasion: {
      entered_at: new Date(entered),
      ordered_since: standing(shopper.orders).some(
        ({ number, placed_at }) => number !== run.about.order && Date.parse(placed_at) > entered,
      ),
      cart_changed: (shopper.cart?.updated_at ?? null) !== (run.cart ?? null),
      opened: reactions.some((one) => one?.opened === true),
      clicked: reactions.some((one) => one?.clicked === true),
      mails: run.mails.length,
      mails_ever: before.length,
      ...(last !== undefined && { last_mail_at: new Date(last) }),
    },
    event: { ...run.about },
  };
}
