export {
  assembleRecord,
  ownRecord,
  sharedRecord,
  addProducts,
  productIndex,
  reviveRecord,
  packDays,
  type PersonData,
  type SharedData,
} from './assemble';
export {
  EVENT_KIND_NAMES,
  eventJsonSchema,
  readEvent,
  ShopEvent,
  type EventKind,
  type EventRead,
} from './events';
export { feedsThen } from './feedsThen';
export { cents, type Cart, type Line } from './cart';
export { cartWithLine, cartWithQuantity, lineOfProduct } from './madeUp';
export {
  foldEvent,
  foldEvents,
  foldHeap,
  inOrder,
  NEW_SHOPPER,
  spent,
  standing,
  type Order,
  type Shopper,
} from './fold';
export { ownerOf, type Known } from './identity';
export { instantOf, isOver } from './instants';
export { asksPast, pastRecord, type Past, type PastAsked, type ReceivedEmail } from './past';
export { mergePerson, mergeShopper, type Imported } from './person';
export { fieldsChanged, personThen, type PersonChange } from './personThen';
export { buyingAt, fifthOf, ranks, type Buying, type Counted } from './rank';
export { readPersonData } from './personData';
export { productsThen, whatChanged, type ProductChange, type Products } from './productsThen';
export { withPast, withStandard } from './standard';
