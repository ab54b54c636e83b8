import { NEW_SHOPPER } from '../../record';
import type { Happening, Moment } from '../define';
import { dateOfPerson } from './dateOfPerson';
import { lookedAt } from './lookedAt';
import { productChanged } from './productChanged';

const moment = (at: string, given: Partial<Moment>): Moment =>
  ({
    ...{ at: Date.parse(at), shopper: NEW_SHOPPER, person: {}, looked: new Map() },
    ...{ happening: null, zone: 'America/Los_Angeles', rules: {} },
    ...given,
  }) as Moment;

// Afternoon and evening of the 23rd in Los Angeles; by UTC the evening is the 24th.
const AFTERNOON = '2026-11-23T22:00:00Z';
const EVENING = '2026-11-24T03:00:00Z';
const MORNING = '2026-11-24T18:00:00Z';

test('one day’s looking at a product is one cause, by the clocks of whoever looks', () => {
  const start = lookedAt.make(0);
  const causes = [AFTERNOON, EVENING, MORNING].flatMap((at) => {
    const event = { kind: 'viewed', sku: 'A', at } as never;
    const happening: Happening = { kind: 'person', event };
    return lookedAt.causes(start, moment(at, { happening })).map(({ cause }) => cause);
  });
  expect(causes).toEqual(['looked A 2026-11-23', 'looked A 2026-11-23', 'looked A 2026-11-24']);
});

test('one day’s change of a product is one cause', () => {
  const start = productChanged.make(0);
  const happening: Happening = { kind: 'product', change: 'cheaper', sku: 'A' };
  const causes = [AFTERNOON, EVENING, MORNING].flatMap((at) => {
    const looked = new Map([['A', Date.parse(at) - 1]]);
    return productChanged.causes(start, moment(at, { happening, looked })).map((one) => one.cause);
  });
  expect(causes).toEqual(['cheaper A 2026-11-23', 'cheaper A 2026-11-23', 'cheaper A 2026-11-24']);
});

test.each([
  [800, '2024-09-15', '2026-11-24'],
  [-30, '2020-12-24', '2026-11-24'],
  [0, '2020-02-29', '2027-02-28'],
])('%s days after a date of every year it is time, however far that is', (days, born, day) => {
  const start = { ...dateOfPerson.make(0), field: 'born', days, yearly: true, time: '09:00' };
  const at = `${day}T20:00:00Z`;
  const due = dateOfPerson
    .causes(start, moment(at, { person: { born } }))
    .map((one) => new Date(one.due).toISOString());
  expect(due).toContain(`${day}T17:00:00.000Z`);
});
