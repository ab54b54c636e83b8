import fc from 'fast-check';
import {
  historyOf,
  pick,
  shopOf,
  STEPS,
  stepKind,
  withActivity,
  withHistory,
  type Activity,
} from '.';
import { DAY_MS } from './lines';
import { nobody, NOW, product, rule } from './testing';

const SKUS = [...'abcdef'];
const seen = fc.record({
  sku: fc.constantFrom(...SKUS),
  at: fc.integer({ min: 0, max: 200 }).map((days) => NOW - days * DAY_MS),
});
const line = fc
  .tuple(seen, fc.integer({ min: 1, max: 5 }))
  .map(([one, quantity]) => ({ ...one, quantity, price: 2 }));
const activityOf = (person: string): fc.Arbitrary<Activity> =>
  fc.record({
    person: fc.constant(person),
    country: fc.constantFrom('GB', 'DE', undefined),
    bought: fc.array(line, { maxLength: 8 }),
    viewed: fc.array(seen, { maxLength: 5 }),
    carted: fc.array(seen, { maxLength: 5 }),
  });
const everybody = fc.tuple(...['p', 'q', 'r', 's'].map(activityOf));

test('what changes step by step comes to what is made anew, for every kind of step', () => {
  const catalog = SKUS.map((sku, i) => product(sku, { category: i % 2 ? 'Pots' : 'Seeds' }));
  fc.assert(
    fc.property(
      everybody,
      fc.array(fc.constantFrom('p', 'q', 'r', 's', 't').chain(activityOf), { maxLength: 5 }),
      (first, later) => {
        let history = historyOf(first);
        let shop = shopOf(history, catalog);
        const now = new Map(first.map((one) => [one.person, one]));
        for (const one of later) {
          history = withActivity(history, [one]);
          shop = withHistory(shop, history);
          now.set(one.person, one);
        }
        const anew = shopOf(historyOf(now.values()), catalog);
        for (const kind of Object.keys(STEPS) as (keyof typeof STEPS)[])
          for (const person of ['p', 't', 'nobody']) {
            const asked = { ...nobody, person, cart: ['a'], latest: ['b'], country: 'GB' };
            const one = rule(stepKind(kind).make() as object);
            expect(told(pick(one, shop, asked))).toEqual(told(pick(one, anew, asked)));
          }
      },
    ),
    { numRuns: 150 },
  );
});

const told = ({ picks }: ReturnType<typeof pick>) =>
  picks.map(({ product: { sku }, figure, reason }) => [sku, figure, reason]);

test('of somebody who is not known there is nothing; a person without lines is known', () => {
  const history = historyOf([{ person: 'p', bought: [] }]);
  expect(history.bought.starts).toEqual(new Int32Array([0, 0]));
  const more = withActivity(history, [
    { person: 'q', bought: [{ sku: 'a', at: NOW, quantity: 2, price: 3 }] },
  ]);
  expect([...more.bought.starts]).toEqual([0, 0, 1]);
  expect([...more.bought.product]).toEqual([0]);
  const without = withActivity(more, [{ person: 'q', bought: [] }]);
  expect([...without.bought.starts]).toEqual([0, 0, 0]);
});
