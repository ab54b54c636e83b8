export { type Measure } from './bootstrap';
export {
  nameOf,
  textOf,
  type Asked,
  type Candidate,
  type Product,
  type Shop,
  type StepField,
} from './define';
export {
  addPicks,
  byCategory,
  evenness,
  noFigures,
  together,
  type CategoryShare,
  type Evenness,
  type Figures,
} from './figures';
export { formulaProblem, NOT_IN_EXCLUSION, NOT_IN_POOL } from './formulas';
export {
  historyOf,
  withActivity,
  type Activity,
  type Bought,
  type History,
  type Seen,
} from './history';
export { repeatsOf } from './follows';
export { pairsOf } from './pairs';
export { pick, pickRecord, productsInPool, type PassedOver, type Pick, type Picked } from './pick';
export { Rule, type RuleStep } from './rule';
export { shopOf, withHistory } from './shop';
export { roomOf, sieveOf, type Sieve } from './sieve';
export { STEPS, stepKind } from './steps';
export { TASTE, tasteOf, type Taste } from './taste';
export {
  bestOf,
  halves,
  hiddenOrders,
  otherWeights,
  someOf,
  leftOut,
  trial,
  type Hidden,
  type Tried,
  type TrialResult,
} from './trial';
export { leavesOutLatest } from './exclude';
