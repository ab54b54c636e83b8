export type { Asked, Candidate, Product, Shop } from './define';
export { historyOf, type Bought, type History, type Viewed } from './history';
export { Pairs, type Pair } from './pairs';
export { pick, pickRecord, shopOf, type PassedOver, type Pick, type Picked } from './pick';
export { Rule } from './rule';
export { STEPS } from './steps';
