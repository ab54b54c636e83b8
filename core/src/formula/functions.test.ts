import { explain, localeOf, newContext, parse, parseRunning } from '.';
import { valueOf } from './testing';

const when = new Date('2026-03-01T22:30:00Z');

describe('text', () => {
  test.each([
    [`title("éLODIE o'neil-smith")`, "Élodie O'Neil-Smith"],
    [`title("don't stop")`, "Don't Stop"],
    ['shorten("abc", 3)', 'abc'],
    ['shorten("Supercalifragilistic", 6)', 'Super…'],
    ['shorten("👩‍🌾👩‍🌾👩‍🌾", 2)', '👩‍🌾…'],
    ['length("👩‍🌾a")', 2],
    ['replace("a-b-c", "-", "")', 'abc'],
    ['urlencode("a b&c/é")', 'a%20b%26c%2F%C3%A9'],
    ['plain("<p>Sow <b>now</b> &amp; wait</p><script>x()</script>")', 'Sow now & wait'],
    ['initials("quillmoss seed house")', 'QSH'],
    ['upper(12)', '12'],
    ['upper(missing)', undefined],
  ])('%s', (formula, value) => {
    expect(valueOf(formula)).toEqual(value);
  });
});

describe('lists', () => {
  const lines = [
    { name: 'b', price: '2.50', at: new Date(2) },
    { name: 'a', price: 10, at: new Date(1) },
    { name: '', price: null },
  ];
  test.each([
    ['sort(lines, name).name', ['a', 'b', '']],
    ['sort(lines, price, "descending").price', [10, '2.50']],
    ['min(lines, at)', new Date(1)],
    ['sum(lines.price)', 12.5],
    ['average(lines, price)', 6.25],
    ['first(lines, 2).name', ['b', 'a']],
    ['last(lines).name', ''],
    ['every(lines, price is filled)', false],
    ['every([], it is filled)', true],
    ['distinct(["1", 1, 1.0, "1.0"])', ['1', '1.0']],
    ['join(["a", "b"], it, "; ")', 'a; b'],
    ['count(lines[1])', 1],
    ['count("text")', undefined],
    ['sort(lines, name, "sideways")', undefined],
    ['lines where (it.name is "a")', [lines[1]]],
    ['sum([0.1, 0.2])', 0.3],
  ])('%s', (formula, value) => {
    expect(valueOf(formula, { lines })).toEqual(value);
  });

  test('a member’s field hides what the name means outside', () => {
    const record = { name: 'outer', list: [{ name: 'inner' }, { other: 1 }] };
    expect(valueOf('join(list, name)', record)).toBe('inner, outer');
  });
});

describe('dates', () => {
  test.each([
    ['date(when)', 'en-GB', 'UTC', '1 Mar 2026'],
    ['date(when, "d. MMMM yyyy")', 'de-DE', 'Europe/Berlin', '1. März 2026'],
    ['date(when, "EEEE")', 'fr-FR', 'UTC', 'dimanche'],
    ['date(when, "yyyy-MM-dd HH:mm")', 'en-GB', 'Asia/Tokyo', '2026-03-02 07:30'],
    ["date(when, \"h 'o''clock' a\")", 'en-GB', 'UTC', "10 o'clock pm"],
    ['date(when, "weekday")', 'en-GB', 'UTC', 'Sunday'],
    ['date("2026-02-30")', 'en-GB', 'UTC', undefined],
    ['date(when, "qq")', 'en-GB', 'UTC', undefined],
    ['day(when)', 'en-GB', 'Asia/Tokyo', 2],
    ['weekday_number(when)', 'en-GB', 'UTC', 7],
    ['days_between(when, "2026-02-27")', 'en-GB', 'UTC', -2],
    ['date(add_days(when, 30), "short")', 'en-GB', 'UTC', '31/03/2026'],
    ['when = "2026-03-01T23:30:00+01:00"', 'en-GB', 'UTC', true],
    ['when + 1 > "2026-03-02"', 'en-GB', 'UTC', true],
  ])('%s in %s, %s', (formula, tag, zone, value) => {
    expect(valueOf(formula, { when }, tag, zone)).toEqual(value);
  });

  test('an unknown locale or zone falls back to the next', () => {
    const locale = localeOf(['not a tag', 'de-DE'], ['Nowhere/At-all', 'Europe/Berlin']);
    expect([locale.tag, locale.timezone]).toEqual(['de-DE', 'Europe/Berlin']);
  });
});

describe('money', () => {
  const record = {
    shop: { currency: 'EUR' },
    cart: { currency: 'GBP', total: 5, lines: [{ price: 2 }] },
    order: { currency: 'USD', total: 7 },
    product: { price: 3 },
  };
  test.each([
    ['money(cart.total)', '£5.00'],
    ['money(order.total)', 'US$7.00'],
    ['join(cart.lines, money(price))', '£2.00'],
    ['money(product.price)', '£3.00'],
    ['money(3, "EUR")', '€3.00'],
    ['money(3, "nonsense")', undefined],
    ['money("a")', undefined],
  ])('%s', (formula, value) => {
    expect(valueOf(formula, record)).toBe(value);
  });

  test('without cart and order the shop’s currency stands', () => {
    expect(valueOf('money(product.price)', { shop: record.shop, product: { price: 3 } })).toBe(
      '€3.00',
    );
  });
});

describe('running text', () => {
  test('an unclosed tag is told with its column', () => {
    for (const [text, column] of [
      ['Hello {{ person', 7],
      ['{{ a }} and {{ "b', 13],
      ['{{', 1],
      ['{{ }}', 4],
    ] as const) {
      const parsed = parseRunning(text);
      expect(parsed.ok ? 'parsed' : parsed.error.column).toBe(column);
    }
  });
});

test('explaining tells the value of every part', () => {
  const source = 'cart.total > 40 and person.name is filled';
  const parsed = parse(source);
  if (!parsed.ok) throw new Error('must parse');
  const { summary, parts } = explain(
    parsed.value,
    source,
    newContext({ cart: { total: 44.35 } }, localeOf([], [])),
  );
  expect(summary).toBe('no');
  expect(parts.map((p) => `${p.source}: ${p.value}`)).toEqual([
    'cart.total > 40: yes',
    'cart.total: 44.35',
    'person.name is filled: no',
    'person.name: missing',
  ]);
});
