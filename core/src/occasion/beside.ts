import type { Fields } from '../formula';
import { standing } from '../record';
import type { Moment } from './define';
import type { PersonState, Run } from './state';

/**
 * What an occasion adds to the record, for guards, branches and its mails: `occasion` is its own past for this person,
 * `event` what it is about.
 */
export function besideOf(
  run: Pick<Run, 'occasion' | 'about' | 'entered' | 'mails' | 'cart'>,
  { mails }: Pick<PersonState, 'mails'>,
  { at, shopper }: Pick<Moment, 'at' | 'shopper'>,
): Fields {
  const entered = run.entered ?? at;
  const before = mails.filter(({ occasion }) => occasion === run.occasion);
  const last = before.at(-1)?.at;
  return {
    occasion: {
      entered_at: new Date(entered),
      ordered_since: standing(shopper.orders).some(
        ({ number, placed_at }) => number !== run.about.order && Date.parse(placed_at) > entered,
      ),
      cart_changed: (shopper.cart?.updated_at ?? null) !== (run.cart ?? null),
      mails: run.mails.length,
      mails_ever: before.length,
      ...(last !== undefined && { last_mail_at: new Date(last) }),
    },
    event: { ...run.about },
  };
}
