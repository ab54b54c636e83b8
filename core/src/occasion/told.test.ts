import type { Asked } from './moment';
import type { Effect } from './effects';
import type { Occasion } from './occasion';
import { occasion, send } from './testing';
import { toldEffect } from './told';

const of = { occasion: 'o', version: 1, cause: 'c', about: { sku: 'A' }, at: 5 };
const kept: Asked = { formula: '', holds: true, parts: [{ source: 'cart count', value: '3' }] };

function told(effect: Effect, given: Occasion | null, holds: (formula: string) => boolean) {
  const asked: [string, object][] = [];
  const found = toldEffect(effect, given, (formula, beside) => {
    asked.push([formula, beside]);
    return { ...kept, holds: holds(formula) };
  });
  return { found, asked };
}
const whom = { guests: true, segment: 'In', without: 'Out', where: 'cart.count > 3' };
const left = occasion({ whom, steps: [send('a')] });

test('of what was asked the values are kept, not what they were reckoned from', () => {
  const effect: Effect = {
    ...{ ...of, kind: 'asked', step: 'g', held: true },
    ...{ when: 'cart.count > 2', beside: { occasion: { mails: 1 } } },
  };
  expect(told(effect, left, () => true)).toEqual({
    found: { ...of, kind: 'asked', step: 'g', held: true, values: kept.parts },
    asked: [['cart.count > 2', { occasion: { mails: 1 } }]],
  });
});

test.each<[string, (formula: string) => boolean, string]>([
  ['is not in the segment', (formula) => formula !== 'segment:In', 'segment:In'],
  ['is in the one that is left out', () => true, 'segment:Out'],
  ['does not meet the condition', (formula) => formula === 'segment:In', 'cart.count > 3'],
])('who %s is told by the values of that', (_, holds, last) => {
  const effect: Effect = { ...of, kind: 'not_entered', why: 'segment' };
  const { found, asked } = told(effect, left, holds);
  expect(found).toEqual({ ...effect, values: kept.parts });
  expect(asked.at(-1)?.[0]).toBe(last);
});

test('who did not come in for another reason, or to a mail to many, is told by the reason alone', () => {
  const rest: Effect = { ...of, kind: 'not_entered', why: 'rest' };
  expect(told(rest, left, () => false)).toEqual({ found: rest, asked: [] });
  const segment: Effect = { ...rest, why: 'segment' };
  expect(told(segment, null, () => false)).toEqual({ found: segment, asked: [] });
  const start = { kind: 'at_time' as const, time: '2026-12-01T09:00', clock: 'shop' as const };
  expect(told(segment, { ...left, start }, () => false)).toEqual({ found: segment, asked: [] });
});
