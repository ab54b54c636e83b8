import { z } from 'zod';
import { candidatesOf, defineStep, kept, nameOf, ranked, type Scored } from '../define';
import { repeatsOf, type Repeat } from '../follows';
import { stretchOf } from '../history';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { reasonIn } from '../reasons';

const schema = z.strictObject({ kind: z.literal('due_again') });

/** From this share of the usual time something is due, and up to so many times it. */
const [EARLY, LATE] = [0.75, 3];

interface Found extends Scored {
  repeat: Repeat;
  since: number;
}

export const dueAgain = defineStep({
  kind: 'due_again',
  name: 'Due again',
  description:
    'What somebody bought and people buy again, when about the usual time has passed. Leave “bought before” switched off for it.',
  schema,
  make: () => ({ kind: 'due_again' as const }),
  fields: [],
  *candidates(_, shop, asked) {
    const { own: history } = shop;
    const repeats = kept(shop, 'repeats', () => repeatsOf(shop.history));
    const today = dayOf(asked.now);
    const [from, to] = stretchOf(history, history.bought, asked.person);
    const last = new Map<number, number>();
    for (let i = from; i < to; i++)
      if ((history.bought.day[i] ?? 0) <= today)
        last.set(history.bought.product[i] ?? 0, history.bought.day[i] ?? 0);
    const found = [...last].flatMap(([number, day]): Found[] => {
      const product = shop.byNumber[number];
      const repeat = repeats.get(number);
      const since = today - day;
      if (!product || !repeat || repeat.days === 0) return [];
      if (since < repeat.days * EARLY || since > repeat.days * LATE) return [];
      // The nearer to the usual time, and the more people it rests on, the better.
      const near = 1 / (1 + Math.abs(Math.log(since / repeat.days)));
      const score = near * (repeat.people / (repeat.people + 2));
      return [{ product, score, repeat, since }];
    });
    yield* candidatesOf(ranked(found), ({ product, repeat, since }) => ({
      figure: `bought again by ${counted(repeat.people, 'person', 'people')}, usually after ${counted(repeat.days, 'day')}; ${counted(since, 'day')} ago now`,
      reason: reasonIn(shop, 'timeForMore', nameOf(product)),
    }));
  },
});
