import { z } from 'zod';
import { candidatesOf, defineStep, type Scored } from '../define';
import { dayOf } from '../lines';
import { hashOf } from '../random';
import { reasonIn } from '../reasons';

const schema = z.strictObject({ kind: z.literal('at_random') });

/** A step through all of a list that meets each member once: it has no divisor in common with its length. */
function strideOf(length: number, hash: number): number {
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  let stride = 1 + (hash % Math.max(1, length - 1));
  while (common(length, stride) !== 1) stride++;
  return stride;
}

export const atRandom = defineStep({
  kind: 'at_random',
  name: 'At random',
  description: 'Any products; each person gets the same ones for a week.',
  schema,
  make: () => ({ kind: 'at_random' as const }),
  fields: [],
  *candidates(_, shop, { person, now }) {
    const { length } = shop.products;
    if (length === 0) return;
    const week = Math.floor((dayOf(now) + 3) / 7);
    const hash = hashOf(`${person} ${week}`);
    const stride = strideOf(length, Math.floor(hash / length));
    function* walk(): Generator<Scored> {
      for (let i = 0, at = hash % length; i < length; i++, at = (at + stride) % length) {
        const product = shop.products[at];
        if (product) yield { product, score: length - i };
      }
    }
    for (const one of walk())
      yield* candidatesOf([one], () => ({
        figure: `drawn for the week ${week}`,
        reason: reasonIn(shop, 'atRandom'),
      }));
  },
});
