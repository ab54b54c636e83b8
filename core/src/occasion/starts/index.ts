import type { StartKind } from '../define';
import { atTime } from './atTime';
import { byHand } from './byHand';
import { cartLeft } from './cartLeft';
import { checkoutLeft } from './checkoutLeft';
import { dateOfPerson } from './dateOfPerson';
import { lookedAt } from './lookedAt';
import { orderPlaced } from './orderPlaced';
import { orderStatus } from './orderStatus';
import { postPublished } from './postPublished';
import { productChanged } from './productChanged';
import { repeating } from './repeating';
import { segmentChanged } from './segmentChanged';

/** Every kind of start, in the order in which they are offered. */
export const STARTS = {
  cart_left: cartLeft,
  checkout_left: checkoutLeft,
  order_placed: orderPlaced,
  order_status: orderStatus,
  looked_at: lookedAt,
  product_changed: productChanged,
  post_published: postPublished,
  date_of_person: dateOfPerson,
  segment_changed: segmentChanged,
  at_time: atTime,
  repeating,
  by_hand: byHand,
};

export const startKind = (kind: keyof typeof STARTS): StartKind =>
  STARTS[kind] as unknown as StartKind;
