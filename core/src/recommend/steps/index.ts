import type { StepKind } from '../define';
import { bestSellers } from './bestSellers';
import { boughtTogether } from './boughtTogether';
import { byHand } from './byHand';
import { newest } from './newest';
import { priceDropped } from './priceDropped';
import { sameCategory } from './sameCategory';

/** Every kind of step, in the order in which they are offered. */
export const STEPS = {
  bought_together: boughtTogether,
  best_sellers: bestSellers,
  same_category: sameCategory,
  newest,
  price_dropped: priceDropped,
  by_hand: byHand,
};

export const stepKind = (kind: keyof typeof STEPS): StepKind => STEPS[kind] as unknown as StepKind;
