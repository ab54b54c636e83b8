import { fieldOf, instantOf, isRecord, type Fields } from '../formula';
import { standing, type Shopper } from '../record';
import type { About, Moment } from './define';
import { mailKey, type PersonState, type Run } from './state';

/** Whether somebody has ordered since an instant; the order that it is about is not meant. */
const orderedSince = ({ orders }: Shopper, about: About, since: number): boolean =>
  standing(orders).some(
    ({ number, placed_at }) => number !== about.order && instantOf(placed_at) > since,
  );

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
      ordered_since: orderedSince(shopper, run.about, entered),
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

/**
 * The same of a mail that was made a while ago, as it is when it goes: what the person did in between counts, as an order, a
 * cart that was touched, a mail of this way that was opened. `made` is in milliseconds.
 */
export function besideLater(
  beside: Fields,
  { about, made, shopper }: { about: About; made: number; shopper: Shopper },
  reacted: () => { opened: boolean; clicked: boolean },
): Fields {
  const before = fieldOf(beside, 'occasion');
  if (!isRecord(before)) return beside;
  const was = (name: string) => fieldOf(before, name) === true;
  const entered = fieldOf(before, 'entered_at');
  const { cart } = shopper;
  const touched = cart ? instantOf(cart.updated_at) > made : about.cart !== undefined;
  const { opened, clicked } = reacted();
  return {
    ...beside,
    occasion: {
      ...before,
      ordered_since:
        was('ordered_since') ||
        orderedSince(shopper, about, entered instanceof Date ? entered.getTime() : made),
      cart_changed: was('cart_changed') || touched,
      opened: was('opened') || opened,
      clicked: was('clicked') || clicked,
    },
  };
}
