export {
  assembleRecord,
  productIndex,
  reviveRecord,
  type PersonData,
  type World,
} from './assemble';
export { ShopEvent } from './events';
export {
  cents,
  foldEvent,
  foldEvents,
  NEW_SHOPPER,
  type Cart,
  type Line,
  type Order,
  type Shopper,
} from './fold';
export { ranks } from './rank';
