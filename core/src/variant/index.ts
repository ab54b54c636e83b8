export type { AddressProblem } from './address';
export { coverageOf, decisionAt, type Coverage, type DecisionCoverage } from './coverage';
export {
  addFigures,
  bitsOf,
  NO_FIGURES,
  type AddressFigure,
  type Fact,
  type Survey,
  type SurveyFigures,
  type VariantFigure,
} from './figures';
export { groupBy, largestFirst, mostDifferent } from './group';
export { isReached, peopleWith, reachOf, type Reached } from './reach';
export { sayVariant, topicOf, usualBits, type NodeName } from './say';
export { MAIL_FACTS, MOST_PRODUCTS, Surveyor, type MailFact } from './surveyor';
export {
  addImpact,
  ImpactCounter,
  NO_IMPACT,
  partsOf,
  type Impact,
  type ImpactGroup,
  type NodeChange,
} from './impact';
export { candidates } from './propose';
export { worstFirst } from './worst';
