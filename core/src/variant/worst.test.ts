import fc from 'fast-check';
import { bitOf, type Decision } from '../render';
import type { VariantFigure } from './figures';
import { gapsOf, worstFirst } from './worst';

const decision = (kind: Decision['kind']): Decision => ({
  ...{ kind, node: 'n', path: 'p', formula: 'f' },
});
const DECISIONS = [decision('value'), decision('address'), decision('list'), decision('condition')];
/** 35 and the bits of each decision, as a key has them. */
const keyOf = (...bits: number[]) => String.fromCharCode(...bits.map((one) => one + 35));
const variant = (people: number, ...bits: number[]): VariantFigure => ({
  ...{ key: keyOf(...bits), people, person: people },
});
const value = (outcome: 'given' | 'blank' | 'fallback') => bitOf('value', outcome);
const address = (outcome: 'given' | 'blank') => bitOf('address', outcome);
const list = (outcome: 'none' | 'one') => bitOf('list', outcome);
const NOT = bitOf('condition', 'not');

test.each([
  ['nothing', variant(1, value('given'), address('given'), list('one'), NOT), 0],
  ['a fallback', variant(1, value('fallback'), address('given'), list('one'), NOT), 1],
  ['an empty list', variant(1, value('given'), address('given'), list('none'), NOT), 2],
  ['a blank', variant(1, value('blank'), address('given'), list('one'), NOT), 3],
  ['a blank and no link', variant(1, value('blank'), address('blank'), list('one'), NOT), 6],
  [
    'some blank, some a fallback',
    variant(1, value('blank') | value('fallback'), address('given'), list('one'), NOT),
    3,
  ],
  ['what was never asked', variant(1, 0, 0, 0, 0), 0],
])('of an email with %s is missing as much', (_, one, gaps) => {
  expect(gapsOf(one, DECISIONS)).toBe(gaps);
});

test('the worst come first, the larger of equal ones before the smaller, whole ones not at all', () => {
  const whole = variant(900, value('given'), address('given'), list('one'), NOT);
  const few = variant(3, value('blank'), address('given'), list('one'), NOT);
  const many = variant(70, value('blank'), address('given'), list('one'), NOT);
  const worst = variant(1, value('blank'), address('blank'), list('none'), NOT);
  expect(worstFirst([whole, few, many, worst], DECISIONS)).toEqual([worst, many, few]);
});

test('each variant with a gap is there once, in order, whatever the variants are', () => {
  const any = fc.tuple(
    fc.integer({ min: 1, max: 99 }),
    ...[8, 4, 64, 4].map((most) => fc.integer({ min: 0, max: most - 1 })),
  );
  fc.assert(
    fc.property(fc.array(any, { maxLength: 30 }), (given) => {
      const variants = given.map(([people, ...bits]) => variant(people, ...bits));
      const sorted = worstFirst(variants, DECISIONS);
      const gaps = sorted.map((one) => gapsOf(one, DECISIONS));
      expect(gaps).toEqual([...gaps].sort((a, b) => b - a));
      const whole = variants.filter((one) => gapsOf(one, DECISIONS) === 0);
      expect(sorted.length + whole.length).toBe(variants.length);
      for (const one of sorted) expect(variants).toContain(one);
    }),
  );
});
