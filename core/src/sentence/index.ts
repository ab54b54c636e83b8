export {
  COMPARISONS,
  comparisonNamed,
  comparisonsFor,
  isComplete,
  type ClauseKind,
  type Comparison,
  type Wants,
} from './comparisons';
export {
  canBeField,
  clauseFormula,
  formulaSentence,
  isMembers,
  isSentence,
  sentenceFormula,
  type Clause,
  type Members,
  type Part,
  type Sentence,
} from './sentence';
export { sayFormula } from './say';
export {
  MOST_PICKS,
  pickedLoop,
  picksOf,
  productsNamed,
  productsWanted,
  type ProductsWanted,
} from './picks';
