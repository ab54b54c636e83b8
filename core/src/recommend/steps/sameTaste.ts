import { z } from 'zod';
import { bestFirst, candidatesOf, defineStep, type Scored } from '../define';
import { reasonIn } from '../reasons';

const schema = z.strictObject({ kind: z.literal('same_taste') });

/** So many are put forward: nobody asks for more. */
const MOST = 200;

export const sameTaste = defineStep({
  kind: 'same_taste',
  name: 'People of the same taste',
  description: 'What people with similar taste bought. It is calculated in the background first.',
  schema,
  make: () => ({ kind: 'same_taste' as const }),
  fields: [],
  *candidates(_, shop, asked) {
    const { taste } = shop;
    const scores = taste?.scores(shop.own, asked.person);
    if (!taste || !scores) return;
    const { skus } = taste.taste;
    // A cut that leaves enough is found without putting all in order.
    const cut = cutOf(scores, MOST);
    const found: Scored[] = [];
    for (let i = 0; i < scores.length; i++) {
      const score = scores[i] ?? 0;
      const product = score >= cut ? shop.bySku.get(skus[i] ?? '') : undefined;
      if (product) found.push({ product, score });
    }
    yield* candidatesOf(bestFirst(found), ({ score }) => ({
      figure: `${Math.round(score * 100)} % near to what they bought`,
      reason: reasonIn(shop, 'yourTaste'),
    }));
  },
});

/** The score of about the best `most`: by halving, without sorting. */
function cutOf(scores: Float32Array, most: number): number {
  if (scores.length <= most) return 0;
  let [low, high] = [0, 0];
  for (const score of scores) high = Math.max(high, score);
  for (let i = 0; i < 12; i++) {
    const middle = (low + high) / 2;
    let above = 0;
    for (let s = 0; s < scores.length; s++) if ((scores[s] ?? 0) >= middle) above++;
    if (above > most) low = middle;
    else high = middle;
  }
  return low;
}
