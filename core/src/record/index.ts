export {
  assembleRecord,
  ownRecord,
  productIndex,
  reviveRecord,
  type PersonData,
  type SharedData,
  packDays,
} from './assemble';
export {
  EVENT_KIND_NAMES,
  eventJsonSchema,
  readEvent,
  ShopEvent,
  type EventKind,
  type EventRead,
} from './events';
export {
  cents,
  foldEvent,
  foldEvents,
  foldHeap,
  inOrder,
  NEW_SHOPPER,
  type Cart,
  type Line,
  type Order,
  type Shopper,
} from './fold';
export { ownerOf, type Known } from './identity';
export { mergePerson, mergeShopper, type Imported } from './person';
export { ranks, type Buying } from './rank';
