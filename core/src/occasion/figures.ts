import { isRecord, wallIn, type Fields } from '../formula';
import type { About } from './define';
import type { Effect } from './effects';
import type { Reason } from './reasons';
import type { Replayed } from './replay';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** How long people take to come back to a cart by themselves is counted in steps of so many hours, up to three days. */
const RETURN_HOURS = 72;

/** One of the reasons for which somebody got nothing, with some of the people. */
export interface Stop {
  occasion: string;
  step: string | null;
  why: Reason;
  count: number;
  people: number[];
}

/** What occasions come to over some people; figures of several add up. */
export interface OccasionFigures {
  people: number;
  entered: number;
  /** Who got a mail at all. */
  reached: number;
  mails: number;
  /** By occasion and step: how many mails each day, by days of the calendar from the one of the beginning. */
  days: { occasion: string; step: string; counts: number[] }[];
  stops: Stop[];
  /** How many people got so many mails; the last for all beyond. */
  per_person: number[];
  /** Who would get two within a day. */
  two_a_day: { count: number; people: number[] };
  /** Carts that were ordered within so many hours after they were touched last; all that were left. */
  returns: { hours: number[]; carts: number };
  /** Orders that came while somebody waited for their first mail. */
  ordered_before: number;
  /** Some mails, to be opened. */
  samples: SampleMail[];
}
export interface SampleMail {
  person: number;
  occasion: string;
  step: string;
  at: number;
  cause: string;
  about: About;
  /** What the occasion added to the record then, dates as ISO 8601: when the last mail was, and so on. */
  past: Record<string, string | number | boolean>;
}

const MOST_PER_PERSON = 10;
const MOST_PEOPLE = 20;
const MOST_SAMPLES = 60;

export const noFigures = (): OccasionFigures => ({
  ...{ people: 0, entered: 0, reached: 0, mails: 0, days: [], stops: [], ordered_before: 0 },
  per_person: new Array<number>(MOST_PER_PERSON + 1).fill(0),
  two_a_day: { count: 0, people: [] },
  returns: { hours: new Array<number>(RETURN_HOURS).fill(0), carts: 0 },
  samples: [],
});

function stopOf(
  figures: OccasionFigures,
  occasion: string,
  step: string | null,
  why: Reason,
): Stop {
  let stop = figures.stops.find(
    (one) => one.occasion === occasion && one.step === step && one.why === why,
  );
  if (!stop) {
    stop = { occasion, step, why, count: 0, people: [] };
    figures.stops.push(stop);
  }
  return stop;
}

function countsOf(figures: OccasionFigures, occasion: string, step: string): number[] {
  let row = figures.days.find((one) => one.occasion === occasion && one.step === step);
  if (!row) {
    row = { occasion, step, counts: [] };
    figures.days.push(row);
  }
  return row.counts;
}

function addTo(counts: number[], index: number, n = 1): void {
  while (counts.length <= index) counts.push(0);
  counts[index] = (counts[index] ?? 0) + n;
}

const pastOf = ({ occasion }: Fields): SampleMail['past'] =>
  Object.fromEntries(
    Object.entries(isRecord(occasion) ? occasion : {}).map(([name, value]) => [
      name,
      value instanceof Date ? value.toISOString() : (value as string | number | boolean),
    ]),
  );

const stepOf = (effect: Effect): string | null =>
  effect.kind === 'mail' ? effect.step.id : 'step' in effect ? effect.step : null;

/** Days of the calendar of a zone, counted from the one that an instant (in milliseconds) falls on. */
export function daysFrom(from: number, zone: string): (at: number) => number {
  const dayOf = (at: number) => Math.floor(wallIn(new Date(at), zone) / DAY);
  const first = dayOf(from);
  return (at) => dayOf(at) - first;
}

/** Counts one person in, whose mails fall on days as they are counted: see `daysFrom`. */
export function countIn(
  figures: OccasionFigures,
  person: number,
  { effects, returns }: Replayed,
  dayOf: (at: number) => number,
): void {
  figures.people++;
  let mails = 0;
  let last = Number.NEGATIVE_INFINITY;
  let isTwice = false;
  const mailed = new Set<string>();
  for (const effect of effects) {
    const { occasion, cause, at } = effect;
    if (effect.kind === 'entered') figures.entered++;
    if (effect.kind === 'mail') {
      addTo(countsOf(figures, occasion, effect.step.id), dayOf(at));
      figures.mails++;
      mailed.add(`${occasion} ${cause}`);
      if (effect.step.to === 'person') {
        mails++;
        if (at - last < DAY) isTwice = true;
        last = at;
      }
      if (figures.samples.length < MOST_SAMPLES)
        figures.samples.push({
          person,
          occasion,
          step: effect.step.id,
          at,
          cause,
          about: effect.about,
          past: pastOf(effect.beside),
        });
    }
    const why =
      effect.kind === 'not_entered' || effect.kind === 'not_made'
        ? effect.why
        : effect.kind === 'ended'
          ? effect.why
          : null;
    if (why === null) continue;
    if (effect.kind === 'ended' && why === 'gone' && !mailed.has(`${occasion} ${cause}`))
      figures.ordered_before++;
    const stop = stopOf(figures, occasion, stepOf(effect), why);
    stop.count++;
    if (stop.people.length < MOST_PEOPLE && !stop.people.includes(person)) stop.people.push(person);
  }
  if (mails > 0) figures.reached++;
  addTo(figures.per_person, Math.min(mails, MOST_PER_PERSON));
  if (isTwice) {
    figures.two_a_day.count++;
    if (figures.two_a_day.people.length < MOST_PEOPLE) figures.two_a_day.people.push(person);
  }
  for (const { after } of returns) {
    figures.returns.carts++;
    const hour = after === null ? RETURN_HOURS : Math.floor(after / HOUR);
    if (hour < RETURN_HOURS) addTo(figures.returns.hours, hour);
  }
}

/** Figures of two groups of people together. */
export function addFigures(a: OccasionFigures, b: OccasionFigures): OccasionFigures {
  const sum: OccasionFigures = structuredClone(a);
  for (const name of ['people', 'entered', 'reached', 'mails', 'ordered_before'] as const)
    sum[name] += b[name];
  for (const { occasion, step, counts } of b.days)
    counts.forEach((n, day) => addTo(countsOf(sum, occasion, step), day, n));
  for (const { occasion, step, why, count, people } of b.stops) {
    const stop = stopOf(sum, occasion, step, why);
    stop.count += count;
    stop.people = [...stop.people, ...people].slice(0, MOST_PEOPLE);
  }
  b.per_person.forEach((n, mails) => addTo(sum.per_person, mails, n));
  sum.two_a_day = {
    count: a.two_a_day.count + b.two_a_day.count,
    people: [...a.two_a_day.people, ...b.two_a_day.people].slice(0, MOST_PEOPLE),
  };
  b.returns.hours.forEach((n, hour) => addTo(sum.returns.hours, hour, n));
  sum.returns.carts += b.returns.carts;
  sum.samples = [...a.samples, ...b.samples].slice(0, MOST_SAMPLES);
  return sum;
}
