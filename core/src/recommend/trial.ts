import type { Fields } from '../formula';
import { bootstrap, type Measure } from './bootstrap';
import type { Asked } from './define';
import { historyOf, stretchOf, withActivity, type Activity, type History } from './history';
import { DAY_MS, dayOf } from './lines';
import { pick } from './pick';
import { hashOf } from './random';
import type { Rule } from './rule';
import { shopOf } from './shop';
import { dateOf } from './steps/newest';
import { TASTE, tasteOf } from './taste';

/** The latest order of somebody, hidden from the rule. */
export interface Hidden {
  person: string;
  country?: string | undefined;
  /** When it was placed, in milliseconds. */
  at: number;
  /** What was ordered. */
  skus: readonly string[];
}

export interface TrialOptions {
  /** So many people at most, chosen by the hash of their address. */
  most: number;
  /** At how many times the indexes are made anew, at most. */
  times: number;
  now: number;
  /** Who is in a segment, by its name: their addresses. */
  segments?: ReadonlyMap<string, ReadonlySet<string>>;
}

/** What a rule did in a trial. */
export interface Tried {
  /** The share of people in whose order at least one pick was. */
  hits: Measure;
  /** The share of an order that was picked, on average. */
  recall: Measure;
  /** 1 for a hit at the first place, ½ at the second, and so on; 0 for none; on average. */
  rank: Measure;
  /** How much more often than plain best sellers it hit, person by person. */
  more: Measure;
  /** How many different products it picked. */
  products: number;
}
export interface TrialResult {
  /** People that it rests on. */
  people: number;
  /** The same for each rule that was given. */
  rules: Tried[];
  /** How much more often the first rule hit than the last of several, person by person. */
  between?: Measure;
  best_sellers: Tried;
  at_random: Tried;
}

/** The latest order of everybody who had ordered before. */
export function hiddenOrders(activity: Iterable<Activity>): Hidden[] {
  const found: Hidden[] = [];
  for (const { person, country, bought } of activity) {
    const at = bought.reduce((latest, line) => Math.max(latest, line.at), Number.NEGATIVE_INFINITY);
    // What was bought on an earlier day is another order.
    if (!bought.some((line) => dayOf(line.at) < dayOf(at))) continue;
    const skus = [...new Set(bought.filter((line) => line.at === at).map(({ sku }) => sku))];
    found.push({ person, country, at, skus });
  }
  return found;
}

/** Some of many, always the same ones. */
export function someOf<T extends { person: string }>(all: readonly T[], most: number): T[] {
  const known = all.map((one) => ({ one, hash: hashOf(one.person) }));
  return known
    .sort((a, b) => a.hash - b.hash || (a.one.person < b.one.person ? -1 : 1))
    .slice(0, most)
    .map(({ one }) => one);
}

/** Hidden orders by the time as of which the rules are asked: the beginning of the day of the first of each. */
function groupsOf(hidden: readonly Hidden[], times: number): { asOf: number; orders: Hidden[] }[] {
  const inTime = [...hidden].sort((a, b) => a.at - b.at);
  const days = [...new Set(inTime.map(({ at }) => dayOf(at)))];
  const size = Math.max(1, Math.ceil(days.length / times));
  const starts = days.filter((_, i) => i % size === 0);
  return starts.map((day, i) => {
    const end = starts[i + 1] ?? Number.POSITIVE_INFINITY;
    return {
      asOf: day * DAY_MS,
      orders: inTime.filter(({ at }) => dayOf(at) >= day && dayOf(at) < end),
    };
  });
}

/** Hidden orders by an earlier and a later part of the past. */
export function halves(hidden: readonly Hidden[]): [earlier: Hidden[], later: Hidden[]] {
  const inTime = [...hidden].sort((a, b) => a.at - b.at);
  const middle = inTime[Math.floor(inTime.length / 2)]?.at ?? 0;
  return [inTime.filter(({ at }) => at < middle), inTime.filter(({ at }) => at >= middle)];
}

/** The latest order as the history knows it: what was bought on the last day. */
function latestIn(history: History, person: string): string[] {
  const { bought, products } = history;
  const [from, to] = stretchOf(history, bought, person);
  const found = new Set<string>();
  for (let i = to - 1; i >= from && bought.day[i] === bought.day[to - 1]; i--)
    found.add(products.all[bought.product[i] ?? 0] ?? '');
  return [...found];
}

/** What the past does not tell is left out: which products were in stock then, and what mails showed. */
function asOfThen(rule: Rule): Rule {
  const { shown_mails: _, ...exclude } = rule.exclude;
  return { ...rule, exclude: { ...exclude, out_of_stock: false } };
}

/** What a person did before an instant, in milliseconds. */
function before(activity: Activity, at: number): Activity {
  const { bought, viewed = [], carted = [] } = activity;
  const earlier = <T extends { at: number }>(lines: readonly T[]) =>
    lines.filter((line) => line.at < at);
  return { ...activity, bought: earlier(bought), viewed: earlier(viewed), carted: earlier(carted) };
}

const morningOf = ({ at }: Hidden): number => dayOf(at) * DAY_MS;

/** What of a rule a trial leaves out, since the past does not tell it, in sentences. */
export function leftOut({ exclude, steps }: Rule): string[] {
  const { out_of_stock, in_cart, shown_mails, where = '' } = exclude;
  const readsPerson = /\b(?:person|cart|orders?)\b/.test(where);
  return [
    out_of_stock && 'whether products were in stock then',
    in_cart && 'what lay in the cart',
    shown_mails !== undefined && 'what the last emails showed',
    readsPerson && 'the formula of what is excluded, as far as it asks about the person',
    steps.some(({ step }) => step.kind === 'back_in_stock') && 'what was back in stock then',
  ].filter((one) => one !== false);
}

/** What each person's case came to, for one rule. */
class Scores {
  readonly hit: number[] = [];
  readonly recall: number[] = [];
  readonly rank: number[] = [];
  readonly products = new Set<string>();

  add(picked: readonly string[], { skus }: Hidden): void {
    const wanted = new Set(skus);
    const hits = picked.filter((sku) => wanted.has(sku)).length;
    const first = picked.findIndex((sku) => wanted.has(sku));
    this.hit.push(hits > 0 ? 1 : 0);
    this.recall.push(wanted.size === 0 ? 0 : hits / wanted.size);
    this.rank.push(first < 0 ? 0 : 1 / (first + 1));
    for (const sku of picked) this.products.add(sku);
  }

  told(sellers: Scores): Tried {
    return {
      hits: bootstrap(this.hit),
      recall: bootstrap(this.recall),
      rank: bootstrap(this.rank),
      more: bootstrap(this.hit.map((one, i) => one - (sellers.hit[i] ?? 0))),
      products: this.products.size,
    };
  }
}

/** A rule of one step that is asked as another rule is: with its pool, exclusions, spread and number. */
const plain = ({ number, exclude, pool }: Rule, step: Rule['steps'][number]['step']): Rule => ({
  ...{ name: 'plain', label: 'Plain', number, exclude },
  ...(pool && { pool }),
  steps: [{ take: number, step }],
});

/**
 * Tries rules on the past: each person's latest order, and everything after it, is hidden; the rules are asked
 * as of the beginning of that day, and it is counted how much of the order they would have shown, against
 * plain best sellers and chance. What lay in the cart is hidden too, since it became the order. Indexes are made
 * of what had happened by the first day of a group, what each person did themselves is known until the morning of
 * their order; products that came later are not in the catalog; prices and segments are today's. Yields how many
 * people are done.
 */
export function* trial(
  rules: readonly Rule[],
  hidden: readonly Hidden[],
  activity: readonly Activity[],
  catalog: readonly Fields[],
  { times, segments }: Pick<TrialOptions, 'times' | 'segments'>,
): Generator<number, TrialResult> {
  const [first] = rules;
  if (!first) throw new Error('Choose a rule to test.');
  const asked = rules.map(asOfThen);
  const sellers = asOfThen(plain(first, { kind: 'best_sellers', days: 90, by: 'units' }));
  const chance = asOfThen(plain(first, { kind: 'at_random' }));
  const all = [...asked, sellers, chance];
  const scores = all.map(() => new Scores());
  const needsTaste = rules.some(({ steps }) =>
    steps.some(({ step }) => step.kind === 'same_taste'),
  );
  const activityOf = new Map(activity.map((one) => [one.person, one]));
  let done = 0;
  for (const { asOf, orders } of groupsOf(hidden, times)) {
    const history = historyOf(activity, asOf - 1);
    // Before the shop is made: what somebody did first in these days is known by number there.
    const own = withActivity(
      history,
      orders.flatMap((order) => {
        const all = activityOf.get(order.person);
        return all ? [before(all, morningOf(order))] : [];
      }),
    );
    const known = catalog.filter(
      (record) => dateOf({ record, sku: '', place: 0, number: undefined }, 'added_at') <= asOf,
    );
    const taste = needsTaste ? tasteOf(history, { ...TASTE, factors: 16, rounds: 6 }) : null;
    const shop = { ...shopOf(history, known, { taste, ...(segments && { segments }) }), own };
    for (const order of orders) {
      const who: Asked = {
        ...{ person: order.person, country: order.country, cart: [], now: morningOf(order) },
        latest: latestIn(own, order.person),
        record: { person: { email: order.person } },
      };
      all.forEach((rule, i) => {
        const picked = pick(rule, shop, who).picks.map(({ product: { sku } }) => sku);
        scores[i]?.add(picked, order);
      });
      done++;
    }
    yield done;
  }
  const bySellers = scores[asked.length] ?? new Scores();
  const told = scores.map((one) => one.told(bySellers));
  const none = new Scores().told(bySellers);
  return {
    people: done,
    rules: told.slice(0, asked.length),
    ...(asked.length > 1 && {
      between: bootstrap(
        (scores[0]?.hit ?? []).map((one, i) => one - (scores[asked.length - 1]?.hit[i] ?? 0)),
      ),
    }),
    best_sellers: told[asked.length] ?? none,
    at_random: told[asked.length + 1] ?? none,
  };
}

/** Weights that are tried for the steps of a mix. */
const WEIGHTS = [0, 0.5, 1, 2, 4];
const MOST_TRIED = 24;

/** Other weights for a mix, drawn by the hash of the rule's name: the same every time. */
export function otherWeights(rule: Rule): Rule[] {
  const mix = rule.steps.length - 1;
  return Array.from({ length: MOST_TRIED }, (_, n) => ({
    ...rule,
    steps: rule.steps.map((step, i) =>
      i === mix
        ? step
        : { ...step, weight: WEIGHTS[hashOf(`${rule.name} ${n} ${i}`) % WEIGHTS.length] ?? 1 },
    ),
  })).filter(({ steps }) => steps.slice(0, mix).some(({ weight }) => weight !== 0));
}

/** The rule that did best: by the rank of its first hit, which chance moves less than hits. */
export function bestOf(rules: readonly Rule[], { rules: tried }: TrialResult): Rule | undefined {
  let best = 0;
  tried.forEach(({ rank }, i) => {
    if (rank.mean > (tried[best]?.rank.mean ?? 0)) best = i;
  });
  return rules[best];
}
