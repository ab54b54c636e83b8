import { inferShape } from '../shape';
import { check, parse, parsedFormula, parsedRunning, type Use } from '.';

const LINE = {
  ...{ sku: 'P', name: 'Pot', price: 2.5, quantity: 1, total: 2.5, category: 'Pots' },
  properties: [{ name: 'Label', value: 'x' }],
};
const shape = inferShape([
  {
    person: {
      ...{ email: 'a@q.example', first_name: 'Ada', last_name: 'Fenwick', country: 'GB' },
      ...{ consent: true, orders_count: 2, last_order_at: new Date(0), tags: ['a'] },
    },
    cart: { total: 5, currency: 'GBP', lines: [LINE], count: 1 },
    now: new Date(0),
    today: new Date(0),
  },
]);

/** What the checker says first, and what its repair makes of the formula. */
function told(source: string, use: Use = 'value') {
  const parsed = parsedFormula(source);
  const [finding] = parsed.ok
    ? check(parsed.value, shape, { use }).findings
    : [{ ...parsed.error, severity: 'error' as const }];
  if (!finding) return { message: '', mended: source };
  const { start, end, repair, message } = finding;
  const mended = repair ? source.slice(0, start) + repair.text + source.slice(end) : null;
  return { message, mended };
}

/** What people write, what they are told, and what one click makes of it. */
const MISTAKES: [string, RegExp, string | null][] = [
  // Habits of other languages.
  ['cart.total == 5', /“==” is written “=” here/, 'cart.total = 5'],
  ['cart.total !== 5', /“!==” is written “!=”/, 'cart.total != 5'],
  ['cart.total <> 5', /“<>” is written “!=”/, 'cart.total != 5'],
  [
    'person.consent && cart.total > 5',
    /“&&” is written “and”/,
    'person.consent and cart.total > 5',
  ],
  [
    'person.consent || cart.total > 5',
    /“\|\|” is written “or”/,
    'person.consent or cart.total > 5',
  ],
  ['!person.consent', /“!” is written “not”/, 'not person.consent'],
  ["person.country = 'GB'", /double quotes/, 'person.country = "GB"'],
  ['person.country = “GB”', /Quotes are straight/, 'person.country = "GB"'],
  ['person.country = ‘GB’', /double quotes/, 'person.country = "GB"'],
  ['cart.total ≥ 50', /“≥” is written “>=”/, 'cart.total >= 50'],
  ['cart.total ≤ 50', /“≤” is written “<=”/, 'cart.total <= 50'],
  ['cart.total => 50', /“=>” is written “>=”/, 'cart.total >= 50'],
  ['cart.total ≠ 50', /“≠” is written “!=”/, 'cart.total != 50'],
  ['cart.total * 20%', /0\.2 is 20 %/, 'cart.total * 0.2'],
  [
    'person.consent AND cart.total > 5',
    /“AND” is written “and”/,
    'person.consent and cart.total > 5',
  ],
  ['person.consent = TRUE', /“TRUE” is written “true”/, 'person.consent = true'],
  ['person.first_name or "there"', /said by “otherwise”/, 'person.first_name otherwise "there"'],
  ['person.first_name exists', /“exists” is written “is filled”/, 'person.first_name is filled'],
  ['person.first_name is null', /asked by “is empty”/, 'person.first_name is empty'],
  ['person.first_name is blank', /asked by “is empty”/, 'person.first_name is empty'],
  ['person.first_name is not null', /asked by “is empty”/, 'person.first_name is filled'],
  ['person.first_name != null', /asked by “is empty”/, 'person.first_name is filled'],
  ['person.consent is yes', /“yes” is written “true”/, 'person.consent is true'],
  [
    'if cart.total > 50 then "free" else "soon"',
    /if\(condition, then, else\)/,
    'if(cart.total > 50, "free", "soon")',
  ],
  ['cart.total > 1,000', /without commas/, 'cart.total > 1000'],
  ['1 < cart.total < 10', /Join two comparisons with “and”/, '1 < cart.total and cart.total < 10'],
  ['=sum(cart.lines, price)', /begins without “=”/, 'sum(cart.lines, price)'],
  ['{{ cart.total }}', /without braces/, 'cart.total'],
  ['person.first name', /Names have no spaces/, 'person.first_name'],
  // Brackets.
  ['sum(cart.lines, price', /“\(” in column 4 is never closed/, 'sum(cart.lines, price)'],
  ['cart.lines[1', /“\[” in column 11 is never closed/, 'cart.lines[1]'],
  [
    'sum(cart.lines, price))',
    /This “\)” has no matching opening bracket/,
    'sum(cart.lines, price)',
  ],
  // Names.
  ['person.country = GB', /A text stands in quotes: "GB"/, 'person.country = "GB"'],
  ['first_name', /Is it “person\.first_name”\?/, 'person.first_name'],
  ['person.frist_name', /nearest is “first_name”/, 'person.first_name'],
  ['person.shoe_size', /Nothing is named “shoe_size” here: there is email, first_name, /, null],
  ['persn.email', /nearest is “person”/, 'person.email'],
  ['xyzzy', /^Nothing is named “xyzzy” here\.$/, null],
  ['person["frist_name"]', /nearest is “first_name”/, 'person["first_name"]'],
  ['Person.email', /nearest is “person”/, 'person.email'],
  // Functions.
  ['len(person.email)', /nearest is “length”/, 'length(person.email)'],
  ['length(cart.lines)', /counts letters.*“count”/, 'count(cart.lines)'],
  [
    'length(cart.lines where (price > 2)) > 1',
    /“count”/,
    'count(cart.lines where (price > 2)) > 1',
  ],
  ['now() - 3', /“now\(…\)” is written “now”/, 'now - 3'],
  ['avg(cart.lines, price)', /nearest is “average”/, 'average(cart.lines, price)'],
  ['coalesce(person.first_name, "there")', /otherwise/, '(person.first_name otherwise "there")'],
  ['isempty(cart.lines)', /is empty/, '(cart.lines is empty)'],
  ['titel(person.first_name)', /nearest is “title”/, 'title(person.first_name)'],
  ['frobnicate(cart.total)', /^There is no function “frobnicate”\.$/, null],
  ['title()', /is written title\(text\)/, null],
  [
    'sort(cart.lines, price, "desc")',
    /“ascending” or “descending”, not “desc”/,
    'sort(cart.lines, price, "descending")',
  ],
  ['money(cart.total, "EURO")', /“EURO” is no currency/, 'money(cart.total, "EUR")'],
  ['money(cart.total, "pounds")', /three letters, such as EUR/, null],
  [
    'date(person.last_order_at, "longg")',
    /no style of a date/,
    'date(person.last_order_at, "long")',
  ],
  [
    'date(person.last_order_at, "DD/MM/YYYY")',
    /knows no “D”, “Y”/,
    'date(person.last_order_at, "dd/MM/yyyy")',
  ],
  ['date(cart.total)', /“date” needs a date here, and there is a number/, null],
  ['date("soon")', /“date” needs a date here, and there is “soon”/, null],
  ['money("a lot")', /“money” needs a number/, null],
  ['days_between(today, cart.total)', /needs a date here, and there is a number/, null],
  ['upper(person)', /“upper” needs a text here, and there is a record/, null],
  ['sum(cart.total)', /“sum” needs a list here, and there is a number/, null],
  ['if(cart.total, 1, 2)', /“if” needs a condition/, 'if(cart.total is filled, 1, 2)'],
  ['any(cart.lines, name)', /“any” needs a condition/, 'any(cart.lines, name is filled)'],
  [
    'every(cart.lines, price * 2)',
    /“every” needs a condition/,
    'every(cart.lines, (price * 2) is filled)',
  ],
  [
    'cart.lines where (name)',
    /Yes or no is needed here, and this is a text/,
    'cart.lines where (name is filled)',
  ],
  // What can be no other way.
  ['cart.total > "a lot"', /can never hold: a number beside a text/, null],
  ['cart.total != "a lot"', /always holds: a number beside a text/, null],
  ['person.last_order_at > "soon"', /“soon” is not a date such as 2026-03-31/, null],
  ['cart.lines[0].name', /Lists count from 1/, 'cart.lines[1].name'],
  ['cart.lines.properties.name', /is a list in a list: loop over it/, null],
  [
    'person.first_name + person.last_name',
    /joined with “&”/,
    'person.first_name & person.last_name',
  ],
  ['person.email.domain', /“person\.email” is a text and has no fields/, null],
  ['"x" in cart.total', /asks a list, and there is a number/, null],
  ['cart.total where (true)', /“where” filters a list, and this is a number/, null],
  ['not cart.total', /Yes or no is needed here, and this is a number/, 'not cart.total is filled'],
];

test.each(MISTAKES)('%s', (source, message, mended) => {
  const said = told(source);
  expect(said.message).toMatch(message);
  expect(said.mended).toBe(mended);
  expect(said.message).not.toMatch(/undefined|null\b(?!”)|\bkind\b/);
});

test('what a repair makes parses, and has nothing of the kind wrong with it', () => {
  for (const [source, , mended] of MISTAKES) {
    if (mended === null) continue;
    expect([source, parse(mended).ok]).toEqual([source, true]);
    expect(told(mended).message).not.toBe(told(source).message);
  }
});

test.each([
  ['cart.total', 'condition', 'cart.total is filled'],
  ['cart.total * 2', 'condition', '(cart.total * 2) is filled'],
] as const)('%s as a %s', (source, use, mended) => {
  expect(told(source, use)).toMatchObject({ mended });
});

test('a merge tag is explained where it stands, and mended alone', () => {
  const text = 'Dear {{ person.first_name || "you" }}, {{ cart.total }}';
  const parsed = parsedRunning(text);
  if (parsed.ok) throw new Error('It has a fault.');
  const { message, repair, start, end, column } = parsed.error;
  expect(message).toContain('“||” is written “or”');
  expect(column).toBe(27);
  expect(text.slice(0, start) + (repair?.text ?? '') + text.slice(end)).toBe(
    'Dear {{ person.first_name or "you" }}, {{ cart.total }}',
  );
});

test.each(['a "text" that is = "never closed', '((((('])(
  'what nobody can mend is told plainly: %s',
  (source) => {
    const parsed = parsedFormula(source);
    expect(parsed.ok ? '' : parsed.error.message).not.toBe('');
    expect(parsed.ok || parsed.error.repair).toBeUndefined();
  },
);
