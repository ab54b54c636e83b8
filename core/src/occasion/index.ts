export type { About, Happening, Moment, StartField, StartKind } from './define';
export { shopperAbout } from './about';
export type { AskedValue } from './askedValues';
export { besideLater, besideOf } from './beside';
export { sayWeekdays, WEEKDAY_NAMES } from './clockTime';
export { durationMs, durationOf, sayDuration, UNITS, type Duration } from './duration';
export type { Effect, MailEffect, ToldEffect } from './effects';
export { advance, type Advanced } from './engine';
export { segmentFormula } from './entry';
export {
  addFigures,
  countIn,
  daysFrom,
  noFigures,
  type OccasionFigures,
  type SampleMail,
  type Stop,
} from './figures';
export { momentsOf, type Asked, type MomentOf, type Moments } from './moment';
export {
  allSteps,
  formulasOf,
  Occasion,
  sendsOf,
  type Branch,
  type GuardStep,
  type SendStep,
  type Start,
  type Step,
} from './occasion';
export { restDaysOf } from './ledger';
export { guardsFor, planOf, type Plan, type World } from './plan';
export { presets, type PresetMail, type PresetTemplates } from './presets';
export { problemsOf, type Known, type Problem } from './problems';
export { countPerson, noRates, type Rates } from './rates';
export { REASONS, type Reason } from './reasons';
export { shoppersOf } from './rehearse';
export { readAddresses } from './addresses';
export { replayPerson, withConsent, type Dated, type Replayed } from './replay';
export { sayFormula, sayStart, sayStep, sayWhom, type Names } from './say';
export { Segment } from './segment';
export { FIRST_RULES, ShopRules } from './shopRules';
export { STARTS, startKind } from './starts';
export { earliest, inFiveMinutes, wallAt, wallOf, weeksLater } from './starts/atTime';
export { nextWall } from './starts/repeating';
export { mailKey, NEW_STATE, nextDue, type MadeMail, type PersonState, type Run } from './state';
export { toldEffect } from './told';
export { timelineOf, type Hung } from './timeline';
export { isAmong, whomAsks, type WhomAsks } from './whom';
