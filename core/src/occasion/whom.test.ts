import fc from 'fast-check';
import { mayEnter } from './entry';
import { NEW_STATE, type Run } from './state';
import { added, at, momentsFor, occasion, person } from './testing';
import { readAddresses } from './addresses';
import { Occasion } from './occasion';
import { isAmong, whomAsks } from './whom';
import { planOf } from './plan';

const SEGMENTS = [
  { name: 'Regulars', formula: 'person.visits >= 3' },
  { name: 'With a cart', formula: 'cart is filled' },
];
const maybe = <T>(one: T) => fc.option(fc.constant(one), { nil: undefined });
const whoms = fc.record({
  segment: fc.constantFrom(undefined, 'Regulars', 'With a cart'),
  without: fc.constantFrom(undefined, 'Regulars', 'With a cart'),
  where: fc.constantFrom(undefined, '', 'person.visits < 5', 'person.nothing = 1'),
  guests: fc.boolean(),
  addresses: fc.constantFrom<string[] | undefined>(
    undefined,
    [],
    ['maud@s.example'],
    ['ben@s.example', 'x@y.example'],
  ),
});

test('who is meant is who may come in, as far as people themselves decide', () => {
  fc.assert(
    fc.property(
      whoms,
      fc.record({
        email: fc.constantFrom('maud@s.example', 'Maud@S.example', 'ben@s.example'),
        visits: fc.integer({ min: 0, max: 6 }),
        guest: maybe(true),
        hasCart: fc.boolean(),
      }),
      (whom, { hasCart, ...fields }) => {
        const time = at('02T09:00');
        const data = person(hasCart ? [added(at('01T09:00'))] : [], fields);
        const moment = momentsFor({}, SEGMENTS).moment({ data, at: time });
        const plan = planOf('o', 1, occasion({ whom, steps: [] }), 0);
        const run: Run = {
          ...{ occasion: 'o', version: 1, cause: 'c', about: {}, due: time, entered: null },
          ...{ next: 0, mails: [] },
        };
        const { asks, addresses } = whomAsks(whom, SEGMENTS);
        const isMeant =
          asks.every(({ formula, is }) => moment.holds(formula, {}) === is) &&
          (addresses === null || isAmong(addresses, fields.email));
        expect(isMeant).toBe(mayEnter(plan, NEW_STATE, run, moment) === null);
      },
    ),
    { numRuns: 300 },
  );
});

test('a segment that is gone means nobody; left out, it leaves out nobody', () => {
  expect(whomAsks({ guests: true, segment: 'Gone' }, SEGMENTS).asks).toEqual([
    { formula: 'false', is: true },
  ]);
  expect(whomAsks({ guests: true, without: 'Gone' }, SEGMENTS).asks).toEqual([
    { formula: 'false', is: false },
  ]);
});

test('addresses are read as they are written or pasted, each once', () => {
  const text =
    'Maud Fennimore <maud@s.example>, BEN@s.example; ben@s.example\r\n  x@y.example\tz@y.example';
  expect(readAddresses(text)).toEqual({
    addresses: ['maud@s.example', 'ben@s.example', 'x@y.example', 'z@y.example'],
    problem: null,
  });
  expect(readAddresses(' ,; \n')).toEqual({ addresses: [], problem: null });
});

test('what is no address is told, and nothing is taken', () => {
  expect(readAddresses('maud@s.example, wrong').problem).toBe(
    '“wrong” is not an address such as name@shop.example. None was added yet.',
  );
  expect(readAddresses('a, b, c@d').problem).toMatch(
    /^“a” is not an address .*, nor is 1 other\. None/,
  );
  expect(readAddresses(`${'x'.repeat(300)}@y.example`).problem).toMatch(/is not an address/);
  const many = Array.from({ length: 10_001 }, (_, i) => `p${i}@y.example`).join('\n');
  expect(readAddresses(many)).toEqual({
    addresses: [],
    problem: expect.stringContaining(
      'These are 10,001 addresses; at most 10,000 are allowed',
    ) as string,
  });
});

test('an occasion takes what was read', () => {
  const piece = fc.oneof(
    fc.emailAddress(),
    fc.emailAddress().map((email) => `Some One <${email}>`),
    fc.string({ maxLength: 12 }),
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
      const { addresses, problem } = readAddresses(pieces.join(', '));
      const whom = { guests: true, addresses };
      const read = Occasion.safeParse({ ...occasion({ whom, steps: [] }) });
      expect([read.success, problem !== null && addresses.length > 0]).toEqual([true, false]);
    }),
  );
});
