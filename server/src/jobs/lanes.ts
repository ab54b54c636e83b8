import type { AllJobs } from './handlers';

/**
 * Where work is done. `quick`: somebody waits for it at a screen. `evaluating`, `filling` and `sending` are the way of an
 * email, and have threads of their own, so that no import and no survey holds them up. `long`: what somebody started and
 * follows. `aside`: nobody waits for it.
 */
export type Lane = 'quick' | 'evaluating' | 'filling' | 'sending' | 'long' | 'aside';

/** How many threads each lane has at most. */
export const THREADS: Readonly<Record<Lane, number>> = {
  quick: 2,
  evaluating: 1,
  filling: 2,
  sending: 1,
  long: 2,
  aside: 1,
};

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

/** In which lane each kind of work is done, and how long it may take, in milliseconds. */
export const LANES: Readonly<Record<keyof AllJobs, readonly [Lane, number]>> = {
  build: ['quick', MINUTE],
  skeletons: ['quick', MINUTE],
  render: ['quick', 5 * MINUTE],
  fill: ['quick', MINUTE],
  preview: ['quick', MINUTE],
  sharedData: ['quick', 2 * MINUTE],
  shape: ['quick', 5 * MINUTE],
  selectRows: ['quick', 2 * MINUTE],
  samples: ['quick', 2 * MINUTE],
  picks: ['quick', 2 * MINUTE],
  picksOfMany: ['quick', 5 * MINUTE],
  ruleFigures: ['quick', 5 * MINUTE],
  profile: ['quick', 2 * MINUTE],
  walk: ['quick', 2 * MINUTE],
  pastMail: ['quick', 2 * MINUTE],
  peekMail: ['quick', MINUTE],
  surveyFew: ['quick', 5 * MINUTE],
  takeFewEvents: ['quick', 5 * MINUTE],
  occasionCounts: ['quick', 2 * MINUTE],
  insidePage: ['quick', MINUTE],
  handList: ['quick', 2 * MINUTE],
  outboxPage: ['quick', 2 * MINUTE],
  outboxAfter: ['quick', 2 * MINUTE],
  outboxStates: ['quick', 2 * MINUTE],
  recipients: ['quick', 2 * MINUTE],
  standing: ['quick', 2 * MINUTE],
  facets: ['quick', 2 * MINUTE],
  notes: ['quick', MINUTE],
  noteProducts: ['quick', 2 * MINUTE],
  advance: ['evaluating', 2 * HOUR],
  fillMails: ['filling', HOUR],
  deliver: ['sending', 2 * HOUR],
  look: ['long', 10 * MINUTE],
  check: ['long', HOUR],
  apply: ['long', 2 * HOUR],
  undo: ['long', 2 * HOUR],
  recover: ['long', 2 * HOUR],
  refreshSource: ['long', 2 * HOUR],
  checkpoint: ['long', 10 * MINUTE],
  takeEvents: ['long', 2 * HOUR],
  trial: ['long', HOUR],
  replay: ['long', HOUR],
  checkTemplate: ['long', HOUR],
  makeOne: ['long', 10 * MINUTE],
  impact: ['long', HOUR],
  survey: ['long', HOUR],
  audience: ['long', 10 * MINUTE],
  taste: ['aside', 2 * HOUR],
  surveyAside: ['aside', 2 * HOUR],
};
