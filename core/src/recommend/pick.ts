import type { Fields } from '../formula';
import {
  kept,
  nameOf,
  ranked,
  type Asked,
  type Candidate,
  type Product,
  type Shop,
} from './define';
import { exclusions, inOrder, Spread } from './exclude';
import { dayInShop, holdsFor } from './formulas';
import type { Rule, RuleStep } from './rule';
import { stepKind } from './steps';

/** A product for one person, with the step that chose it and why. */
export interface Pick {
  product: Product;
  /** The place of the step in the rule, from 0. */
  step: number;
  score: number;
  figure: string;
  reason: string;
}
/** A product that would have been picked, and why it was not. */
export interface PassedOver {
  product: Product;
  step: number;
  why: string;
}
export interface Picked {
  picks: Pick[];
  /** Those that stood before the last pick, in the order in which they came up. */
  passed: PassedOver[];
}

type Offered = Candidate & { step: number };
/** What is asked together, for so many. */
interface Stage {
  room: number;
  offers: () => Iterable<Offered>;
}

const SHOWN_PASSED = 30;
/** Of each step of a mix so many count that may be picked. */
const MOST_MIXED = 100;

function* offersOf({ step }: RuleStep, at: number, shop: Shop, asked: Asked): Generator<Offered> {
  for (const one of stepKind(step.kind).candidates(step, shop, asked)) yield { ...one, step: at };
}

/** The candidates of several steps by their weighed scores; the best of each that may be picked counts 1. */
function mixed(
  steps: readonly (readonly [RuleStep, number])[],
  shop: Shop,
  asked: Asked,
  mayBe: (offer: Offered) => boolean,
): Offered[] {
  const all = new Map<string, { offer: Offered; score: number; most: number }>();
  for (const [step, at] of steps) {
    let best = 0;
    let many = 0;
    for (const offer of offersOf(step, at, shop, asked)) {
      if (!mayBe(offer)) continue;
      if (many++ === MOST_MIXED) break;
      best = Math.max(best, offer.score);
      const part = best > 0 ? ((step.weight ?? 1) * offer.score) / best : 0;
      const known = all.get(offer.product.sku);
      if (!known) all.set(offer.product.sku, { offer, score: part, most: part });
      else {
        known.score += part;
        if (part > known.most) Object.assign(known, { offer, most: part });
      }
    }
  }
  return ranked([...all.values()].map(({ offer, score }) => ({ ...offer, score })));
}

const pinnedAt = ({ step }: RuleStep): number | undefined =>
  step.kind === 'by_hand' ? step.place : undefined;

/** The steps of a rule as they are asked: each by itself, or all but the last together. */
function stagesOf(
  { steps, mixed: isMixed, number }: Rule,
  shop: Shop,
  asked: Asked,
  mayBe: (offer: Offered) => boolean,
): Stage[] {
  const free = steps
    .map((step, at) => [step, at] as const)
    .filter(([step]) => pinnedAt(step) === undefined);
  const alone = ([step, at]: readonly [RuleStep, number], i: number): Stage => ({
    room: i === free.length - 1 ? number : step.take,
    offers: () => offersOf(step, at, shop, asked),
  });
  if (!isMixed || free.length < 2) return free.map(alone);
  const last = free.at(-1);
  return [
    { room: number, offers: () => mixed(free.slice(0, -1), shop, asked, mayBe) },
    ...(last ? [alone(last, free.length - 1)] : []),
  ];
}

/**
 * Puts what is pinned where it belongs, and the others around it in their order. Each step's picks stand from its
 * place on; what another pin holds is passed. Where there is too little to reach a place, the list ends earlier.
 */
function withPinned<T>(free: readonly T[], pinned: readonly { place: number; picks: T[] }[]): T[] {
  const places: T[] = [];
  for (const { place, picks } of [...pinned].sort((a, b) => a.place - b.place)) {
    let at = place - 1;
    for (const one of picks) {
      while (at in places) at++;
      places[at] = one;
    }
  }
  const rest = [...free];
  for (let at = 0; rest.length > 0; at++) {
    const [next] = rest;
    if (at in places || next === undefined) continue;
    places[at] = next;
    rest.shift();
  }
  return places.filter(() => true);
}

/** What may be picked at all: every product, or those for which the formula of the pool holds. */
function poolOf({ pool }: Rule, shop: Shop, now: number): ReadonlySet<string> | null {
  if (!pool?.trim()) return null;
  return kept(shop, `pool ${dayInShop(shop, now)} ${pool}`, () => {
    const holds = holdsFor(shop, pool, now);
    return new Set(shop.products.filter(holds).map(({ sku }) => sku));
  });
}

/** The products that a rule may pick, whatever the person. */
export function productsInPool(rule: Rule, shop: Shop, now: number): readonly Product[] {
  const pool = poolOf(rule, shop, now);
  return pool ? shop.products.filter(({ sku }) => pool.has(sku)) : shop.products;
}

/** The picks of a rule for one person. */
export function pick(rule: Rule, shop: Shop, asked: Asked): Picked {
  const passed: PassedOver[] = [];
  const taken = new Set<string>();
  const told = new Set<string>();
  const pool = poolOf(rule, shop, asked.now);
  const excluded = exclusions(rule, shop, asked);
  const spread = new Spread(rule.spread);

  const passOver = ({ product, step }: Offered, why: string): void => {
    if (told.has(product.sku) || passed.length >= SHOWN_PASSED) return;
    told.add(product.sku);
    passed.push({ product, step, why });
  };
  /** Whether something may be picked, whatever else is. */
  const mayBe = (offer: Offered): boolean => {
    if (pool && !pool.has(offer.product.sku)) return false;
    const why = excluded(offer.product);
    if (why !== null) passOver(offer, why);
    return why === null;
  };
  /** Takes what may be taken of some offers. */
  const take = (offers: Iterable<Offered>, most: number): Pick[] => {
    const picks: Pick[] = [];
    if (most <= 0) return picks;
    for (const offer of offers) {
      const { product, step, score, words } = offer;
      if (taken.has(product.sku) || !mayBe(offer)) continue;
      const full = spread.full(product);
      if (full !== null) {
        passOver(offer, full);
        continue;
      }
      taken.add(product.sku);
      spread.add(product);
      picks.push({ product, step, score, ...words() });
      if (picks.length === most) break;
    }
    return picks;
  };

  const { number } = rule;
  const pinned = rule.steps.flatMap((step, at) => {
    const place = pinnedAt(step);
    if (place === undefined) return [];
    return [
      {
        place,
        picks: take(offersOf(step, at, shop, asked), Math.min(step.take, number - taken.size)),
      },
    ];
  });
  const picks: Pick[] = [];
  for (const { room, offers } of stagesOf(rule, shop, asked, mayBe))
    picks.push(...take(offers(), Math.min(room, number - taken.size)));
  const all = withPinned(inOrder(picks, rule.order), pinned);
  return { picks: all, passed: passed.filter(({ product }) => !taken.has(product.sku)) };
}

/** What a formula sees of a pick: the product with the reason in plain words. */
export function pickRecord({ product, reason }: Pick): Fields {
  return { ...product.record, name: nameOf(product), reason };
}
