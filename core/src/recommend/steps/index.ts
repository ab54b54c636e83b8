import type { StepKind } from '../define';
import { atRandom } from './atRandom';
import { backInStock } from './backInStock';
import { bestSellers } from './bestSellers';
import { boughtNext } from './boughtNext';
import { boughtTogether } from './boughtTogether';
import { byHand } from './byHand';
import { dueAgain } from './dueAgain';
import { leftInCart } from './leftInCart';
import { lookedAt } from './lookedAt';
import { mostLookedAt } from './mostLookedAt';
import { newest } from './newest';
import { priceDropped } from './priceDropped';
import { sameCategory } from './sameCategory';
import { sameTaste } from './sameTaste';
import { similar } from './similar';

/** Every kind of step, in the order in which they are offered. */
export const STEPS = {
  bought_together: boughtTogether,
  bought_next: boughtNext,
  due_again: dueAgain,
  same_taste: sameTaste,
  similar,
  same_category: sameCategory,
  looked_at: lookedAt,
  left_in_cart: leftInCart,
  best_sellers: bestSellers,
  most_looked_at: mostLookedAt,
  newest,
  price_dropped: priceDropped,
  back_in_stock: backInStock,
  by_hand: byHand,
  at_random: atRandom,
};

export const stepKind = (kind: keyof typeof STEPS): StepKind => STEPS[kind] as unknown as StepKind;
