import { mailKey, NEW_STATE, type PersonState } from './state';
import { asMailsMade, asMailsWent } from './went';

const mail = (step: string, at: number) => ({
  ...{ occasion: 'o', cause: 'c', step, at, marketing: true },
});
const state: PersonState = { ...NEW_STATE, mails: [mail('a', 1), mail('b', 2), mail('c', 3)] };
const key = (step: string) => mailKey('o', 'c', step);
const told = (went: [string, number | null][]) =>
  asMailsWent(state, new Map(went)).mails.map(({ step, at }) => [step, at]);

test('mails that never went are none; those that went later count from then, in that order', () => {
  expect(told([[key('b'), null]])).toEqual([
    ['a', 1],
    ['c', 3],
  ]);
  expect(told([[key('a'), 9]])).toEqual([
    ['b', 2],
    ['c', 3],
    ['a', 9],
  ]);
});

test('where nothing is otherwise the state is the same one, so that nothing is written', () => {
  expect(asMailsWent(state, new Map())).toBe(state);
  expect(asMailsWent(state, new Map([[key('a'), 1]]))).toBe(state);
  expect(asMailsWent(state, new Map([['another', null]]))).toBe(state);
  expect(state.mails).toHaveLength(3);
});

test('what is kept is what was made, with what was made since', () => {
  const went = asMailsWent(
    state,
    new Map([
      [key('b'), null],
      [key('a'), 9],
    ]),
  );
  const advanced = { ...went, mails: [...went.mails, mail('d', 12)] };
  expect(asMailsMade(state, advanced).mails.map(({ step, at }) => [step, at])).toEqual([
    ['a', 1],
    ['b', 2],
    ['c', 3],
    ['d', 12],
  ]);
});
