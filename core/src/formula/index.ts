export { children, rootsOf, walk, type Node, type Span } from './ast';
export { check } from './check';
export { constantFindings } from './checkVerdict';
export type {
  CheckOptions,
  CheckResult,
  Finding as FormulaFinding,
  ScopeFrame,
  Use,
} from './finding';
export { compile, evaluate, runnable } from './compile';
export { newContext, type Context, type Evaluate, type Frame, type Reason } from './context';
export { frameCurrency, printValue } from './members';
export { currencyRoots, nearestCurrency } from './currency';
export { sayCondition, wordsOf } from './say';
export { Day, dayIn, instantOfWall, wallIn } from './days';
export { explain, explainer, type Explanation } from './explain';
export { allFunctions, functionNamed } from './functions';
export type { FormulaFunction } from './functions/define';
export { plainText } from './functions/text';
export { DATE_STYLES, isCurrency, isLocale, isTimeZone, localeOf, type Locale } from './locale';
export { parse, type Parsed, type ParseProblem } from './parse';
export { continued } from './continued';
export { parsedFormula, parsedRunning } from './parsed';
export { print, quote } from './print';
export { remember } from './remember';
export { parseRunning, printRunning, type Segment } from './running';
export { sortLoop } from './sort';
export {
  fieldOf,
  isBlank,
  isList,
  isRecord,
  instantOf,
  readDate,
  toDate,
  toNumber,
  toList,
  toValue,
  type Fields,
  type Value,
} from './values';
export { readTag, writeTag, type TagFormat, type TagParts } from './tag';
