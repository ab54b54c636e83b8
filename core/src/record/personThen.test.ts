import fc from 'fast-check';
import type { Fields } from '../formula';
import { fieldsChanged, personThen, type PersonChange } from './personThen';

test('what changed is told as it was; what was not there as nothing', () => {
  const before = { email: 'm@q.example', city: 'Ghent', tags: ['a'], same: { a: 1 } };
  const after = { email: 'm@q.example', tags: ['a', 'b'], same: { a: 1 }, role: 'member' };
  expect(fieldsChanged(before, after)).toEqual({ city: 'Ghent', tags: ['a'], role: null });
});

test('a person is as they were known at an instant', () => {
  const now = { email: 'm@q.example', city: 'Bruges', role: 'member' };
  const then = personThen(now, [
    { at: 200, before: { city: 'Ghent' } },
    { at: 100, before: { city: 'Antwerp', role: null } },
  ]);
  expect(then(99)).toEqual({ email: 'm@q.example', city: 'Antwerp' });
  expect(then(100)).toEqual({ email: 'm@q.example', city: 'Ghent', role: 'member' });
  expect(then(199)).toBe(then(100));
  expect(then(200)).toBe(now);
  expect(personThen(now, [])(-1)).toBe(now);
});

test('going back through any changes gives what was known at each of their instants', () => {
  const value = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.array(fc.string()));
  const fields = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'toString'), value, {
    noNullPrototype: true,
  });
  fc.assert(
    fc.property(fc.array(fields, { minLength: 1, maxLength: 8 }), (states) => {
      const changes: PersonChange[] = [];
      for (let i = 1; i < states.length; i++) {
        const [before, after] = [states[i - 1], states[i]] as [Fields, Fields];
        changes.push({ at: i * 10, before: fieldsChanged(before, after) });
      }
      const then = personThen(states.at(-1) as Fields, changes);
      states.slice(1).forEach((state, i) => {
        expect(then((i + 1) * 10)).toEqual(state);
        expect(then((i + 1) * 10 - 1)).toEqual(states[i]);
      });
      expect(then(-1)).toEqual(states[0]);
    }),
  );
});
