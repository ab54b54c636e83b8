import { check, parse } from '.';
import { inferShape } from '../shape';

const people = [
  {
    person: { first_name: 'Ada', points: 3, consent: true, joined: new Date(0), tags: ['a'] },
    cart: { total: 3, lines: [{ name: 'x', price: 2 }] },
  },
  {
    person: { first_name: '', points: 4, consent: false, joined: new Date(0), tags: [] },
    cart: { total: 9, lines: [{ name: 'y', price: 2 }] },
  },
];
const shape = inferShape(people);

function found(formula: string, use: 'tag' | 'condition' | 'list' | 'value' = 'value') {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(parsed.error.message);
  return check(parsed.value, shape, { use });
}

describe('the checker', () => {
  test('an unknown field names the nearest, with a repair that mends it', () => {
    const [finding] = found('person.frist_name').findings;
    expect(finding?.severity).toBe('error');
    expect(finding?.message).toContain('“first_name”');
    expect(finding?.repair?.text).toBe('person.first_name');
  });

  test.each([
    ['titel(person.first_name)', 'no function'],
    ['title()', 'is written title(text)'],
    ['cart.total > "a lot"', 'never hold'],
    ['person.joined > "soon"', 'not a date'],
    ['person.consent = 1', 'never hold'],
    ['sum(person.points)', 'needs a list'],
    ['person.first_name where (true)', 'filters a list'],
    ['cart.lines where (price)', 'Yes or no is needed'],
    ['not person.points', 'Yes or no'],
    ['"x" in person.points', 'asks a list'],
    ['person.points.more', 'has no fields'],
  ])('%s is found', (formula, part) => {
    expect(
      found(formula)
        .findings.map((f) => f.message)
        .join(),
    ).toContain(part);
  });

  test.each([
    'sum(cart.lines, price) * 2 > 40 and person.consent',
    'cart.lines where (price >= 1 and it.name is filled)',
    'person.joined + 3 > "2026-01-01"',
    'today otherwise 1'.replace('today', 'person.points'),
    'sort(cart.lines, price, "descending")[1].name',
    'person.tags contains "a"',
  ])('%s has nothing to find', (formula) => {
    expect(found(formula).findings).toEqual([]);
  });

  test('a condition must be yes or no, a loop must walk a list', () => {
    expect(found('cart.total', 'condition').findings[0]?.repair?.text).toBe('cart.total is filled');
    expect(found('cart.total', 'list').findings[0]?.message).toContain('walks a list');
    expect(found('cart.lines', 'list').findings).toEqual([]);
  });

  test('a tag that is blank for some says for how many, unless it has a fallback', () => {
    const [finding] = found('title(person.first_name)', 'tag').findings;
    expect(finding?.message).toContain('blank for 1 of 2 people');
    expect(finding?.repair?.text).toBe('title(person.first_name) otherwise "there"');
    expect(found('person.first_name otherwise "there"', 'tag').findings).toEqual([]);
  });

  test('types follow through functions', () => {
    expect(found('first(cart.lines).price').type.kind).toBe('number');
    expect(found('if(true, 1, 2)').type.kind).toBe('number');
    expect(found('person.joined - person.joined').type.kind).toBe('number');
  });
});
