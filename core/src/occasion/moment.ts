import {
  compile,
  evaluate,
  explainer,
  isTimeZone,
  parsedFormula,
  remember,
  rootsOf,
  type Fields,
} from '../formula';
import { expandFormula } from '../library';
import {
  assembleRecord,
  pastRecord,
  type PersonData,
  type Products,
  type SharedData,
} from '../record';
import { contextFor } from '../render';
import { askedValues, type AskedValue } from './askedValues';
import type { Happening, Moment } from './define';
import { hashOf } from '../recommend/random';
import { segmentFormula } from './entry';
import type { Segment } from './segment';
import type { ShopRules } from './shopRules';

/** What all moments of a shop share. */
export interface MomentShop {
  shared: SharedData;
  /** Products as they are, or were, at an instant; the same for the same. */
  products: (at: number) => Products;
  /** Feeds as they were at an instant; without it, as they are. */
  feeds?: (at: number) => Fields;
  rules: ShopRules;
  segments: readonly Segment[];
  /** Formulas of the library by name. */
  named: ReadonlyMap<string, string>;
}

/** A person as they are at an instant. */
export interface MomentOf {
  data: PersonData;
  at: number;
  happening?: Happening | null;
  looked?: ReadonlyMap<string, number>;
  reacted?: Moment['reacted'];
  sentElsewhere?: Moment['sentElsewhere'];
  /** Whether the mail server said that there is no such address; no, where it is left out. */
  refused?: boolean;
}

/** Parts of a record that are read; null for all. */
type Reads = ReadonlySet<string> | null;

function hasAll(known: Reads, wanted: Reads): boolean {
  if (known === null) return true;
  if (wanted === null) return false;
  for (const name of wanted) if (!known.has(name)) return false;
  return true;
}

const NOT_REACTED = { opened: false, clicked: false };

const NOBODY_LOOKED: ReadonlyMap<string, number> = new Map();

const textOf = (record: Fields, name: string): string => {
  const value = (record as Record<string, unknown>)[name];
  return typeof value === 'string' ? value : '';
};

/** A condition with what it asked, for one person. */
export interface Asked {
  formula: string;
  holds: boolean;
  parts: AskedValue[];
}

/** Makes moments of a shop’s people; formulas are read once. */
export function momentsOf(shop: MomentShop) {
  const segments = new Map(
    shop.segments.map(({ name, formula }) => [segmentFormula(name), formula]),
  );
  const parsed = remember(500, (asked: string) => {
    const formula = segments.get(asked) ?? asked;
    const whole = expandFormula(formula, shop.named);
    const [read, mark] = [parsedFormula(whole), hashOf(whole)];
    if (!read.ok) return { formula, read, mark, compiled: null, reads: null, slowly: null };
    const [compiled, slowly] = [compile(read.value), explainer(read.value, formula)];
    return { formula, read, mark, compiled, reads: rootsOf(read.value), slowly };
  });
  const zones = remember(200, (zone: string) => (isTimeZone(zone) ? zone : ''));
  const shopZone = zones(textOf(shop.shared.shop, 'timezone')) || 'UTC';
  /** The record of whom was asked last: a person is asked again and again while nothing happens to them. */
  let last: {
    data: PersonData;
    products: Products;
    feeds: Fields;
    record: Fields;
    reads: Reads;
  } | null = null;
  /** A record with those of its parts that are read; all where `reads` is null. */
  const recordFor = (data: PersonData, at: number, reads: Reads): Fields => {
    const products = shop.products(at);
    const feeds = shop.feeds?.(at) ?? shop.shared.feeds;
    const known =
      last?.data.shopper === data.shopper &&
      last.data.person === data.person &&
      last.data.picks === data.picks &&
      last.data.rank === data.rank &&
      last.products === products &&
      last.feeds === feeds
        ? last
        : null;
    if (known && hasAll(known.reads, reads)) return known.record;
    const wanted = known && reads ? new Set([...(known.reads ?? []), ...reads]) : reads;
    const how = wanted ? { reads: wanted } : {};
    const shared = feeds === shop.shared.feeds ? shop.shared : { ...shop.shared, feeds };
    const record = assembleRecord(data, shared, products, how);
    last = { data, products, feeds, record, reads: wanted };
    return record;
  };
  /** The context of a person at an instant; the record is put together when it is first asked for. */
  const contextOf = ({ data, at }: MomentOf, beside: Fields, reads: Reads) => {
    const past = data.past ? pastRecord(data.past, shop.products(at), at) : null;
    return contextFor(
      { ...recordFor(data, at, reads), ...past, ...beside },
      { asOf: new Date(at) },
    );
  };
  return {
    moment(of: MomentOf): Moment {
      const { data, at, happening = null, looked = NOBODY_LOOKED } = of;
      return {
        reacted: of.reacted ?? (() => NOT_REACTED),
        refused: of.refused ?? false,
        sentElsewhere: of.sentElsewhere ?? (() => false),
        ...{ at, happening, looked, shopper: data.shopper, person: data.person, rules: shop.rules },
        zone: zones(textOf(data.person, 'timezone')) || shopZone,
        holds(formula, beside) {
          if (formula.trim() === '') return true;
          const { compiled, reads } = parsed(formula);
          return compiled !== null && evaluate(compiled, contextOf(of, beside, reads)) === true;
        },
        inSegment(name) {
          const { compiled, reads, mark } = parsed(segmentFormula(name));
          const is = compiled !== null && evaluate(compiled, contextOf(of, {}, reads)) === true;
          return { is, mark };
        },
      };
    },
    /** Asks a formula once more, slowly, and tells the value of each part. */
    explain(of: MomentOf, asked: string, beside: Fields): Asked {
      const { read, formula, reads, slowly } = parsed(asked);
      if (!read.ok || !slowly) return { formula, holds: false, parts: [] };
      const context = contextOf(of, beside, reads);
      const told = slowly(context);
      const parts = askedValues(read.value, told, context);
      return { formula, holds: told.value === true, parts };
    },
  };
}
export type Moments = ReturnType<typeof momentsOf>;
