import {
  compile,
  evaluate,
  parsedFormula,
  printValue,
  rootsOf,
  type Value,
} from '@carafe/core/formula';
import { byName, expandFormula } from '@carafe/core/library';
import type { WhomAsks } from '@carafe/core/occasion';
import { assembleRecord, pastRecord, productIndex, type PersonData } from '@carafe/core/record';
import { contextFor } from '@carafe/core/render';
import type { LibraryRepository } from '../library/repository';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import type { PeopleRepository } from './repository';
import { meantBy } from './whom';
import { withPast, type PastParts } from './withPast';

export type EverybodyParts = SharedParts & {
  people: Pick<PeopleRepository, 'each' | 'some'>;
  library: Pick<LibraryRepository, 'list'>;
} & PastParts;

const EVERYBODY: WhomAsks = { asks: [], addresses: null };

/** Asking a formula of all recipients takes at most so many steps together, some ten seconds. */
const MOST_STEPS = 1e9;

/** What a formula gives for one recipient. */
export interface Given {
  id: number;
  value: Value;
  /** It takes too long to work out for this one: the value is not known. */
  isUnknown: boolean;
  /** As it prints. */
  text: () => string;
}

/** What rules pick for some people of a shop, by their ids. */
export type PicksOf = (ids: readonly number[]) => Readonly<Record<number, PersonData['picks']>>;

/** How asking everybody may go. */
export interface Asking {
  mostSteps?: number;
  /** Where it is left out, a formula that asks for picks finds none. */
  picksOf?: PicksOf | undefined;
  /** These alone are asked. */
  whom?: WhomAsks | undefined;
}

/** Picks are made for so many people at a time; those of one count as so many steps. */
const AT_ONCE = 200;
const PICKS_STEPS = 20_000;

type Person = ReturnType<EverybodyParts['people']['each']> extends Generator<infer T> ? T : never;

/** People with what rules pick for them. */
function* withPicks(people: Iterable<Person>, picksOf: PicksOf): Generator<Person> {
  let some: Person[] = [];
  const picked = function* () {
    const picks = picksOf(some.map(({ id }) => id));
    for (const { id, data } of some) {
      const own = picks[id];
      yield { id, data: own ? { ...data, picks: own } : data };
    }
    some = [];
  };
  for (const person of people) {
    some.push(person);
    if (some.length === AT_ONCE) yield* picked();
  }
  if (some.length > 0) yield* picked();
}

/**
 * Asks a formula of everybody in a shop, or of those who are meant, one after the other; ends with null where that takes too long. A
 * formula that cannot be read, and a shop that is not there, ask nobody.
 */
export function* everybody(
  parts: EverybodyParts,
  { shop, formula, now }: { shop: string; formula: string; now: string },
  { mostSteps = MOST_STEPS, picksOf, whom = EVERYBODY }: Asking = {},
): Generator<Given | null> {
  const asOf = new Date(now);
  const named = byName(parts.library.list(shop, 'formula').map(({ document }) => document));
  const parsed = parsedFormula(expandFormula(formula, named));
  const shared = sharedDataOf(parts, shop, asOf, null);
  const meant = meantBy(whom, named);
  if (!parsed.ok || !shared || !meant) return;
  const compiled = compile(parsed.value);
  const products = productIndex(shared);
  const reads = new Set([...rootsOf(parsed.value), ...meant.names]);
  const past = { views: reads.has('views'), emails: reads.has('emails') };
  const asksPicks = reads.has('picks');
  const asked = picksOf && asksPicks ? picksOf : null;
  const each = parts.people.each(shop);
  let steps = 0;
  for (const { id, data } of asked ? withPicks(each, asked) : each) {
    const { email } = data.person;
    const record = assembleRecord(data, shared, products, { reads, usesUp: true });
    if (past.views || past.emails) {
      const { past: own = {} } = withPast(parts, shop, past, { ...data, person: { email } });
      Object.assign(record, pastRecord(own, products, asOf.getTime()));
    }
    const context = contextFor(record, { asOf });
    const { total } = context;
    const isMeant = meant.holds(context, email);
    const value = isMeant && evaluate(compiled, context);
    steps += total - context.total + (asked ? PICKS_STEPS : 0);
    if (steps > mostSteps) {
      yield null;
      return;
    }
    const isUnknown = context.bound !== null;
    if (isMeant) yield { id, value, isUnknown, text: () => printValue(value, context) };
  }
}
