import fc from 'fast-check';
import { guessReading, readCell, Reading, readingInWords, readNumber, readValue } from '.';

const number = (decimal: '.' | ',') => ({ kind: 'number', decimal }) as const;
const date = (order: 'iso' | 'dmy' | 'mdy' | 'mail' | 'unix') => ({ kind: 'date', order }) as const;

describe('a cell', () => {
  test.each([
    ['12.50', number('.'), 12.5],
    ['1,5', number('.'), null],
    ['1,5', number(','), 1.5],
    ['1.234,50 €', number(','), 1234.5],
    ['£1,234.50', number('.'), 1234.5],
    ['EUR 12,00', number(','), 12],
    ['-3', number('.'), -3],
    ['1 234,5', number(','), 1234.5],
    ['12.5.1', number('.'), null],
    ['1,23,456', number('.'), null],
    ['yes', { kind: 'boolean' }, true],
    ['nein', { kind: 'boolean' }, false],
    ['Sold out', { kind: 'boolean' }, false],
    ['maybe', { kind: 'boolean' }, null],
    ['2026-03-31', date('iso'), '2026-03-31'],
    ['31.3.2026', date('iso'), null],
    ['31.3.2026', date('dmy'), '2026-03-31'],
    ['31.2.2026', date('dmy'), null],
    ['3/31/2026 8:05', date('mdy'), '2026-03-31T08:05:00Z'],
    ['Tue, 31 Mar 2026 09:00:00 +0200', date('mail'), '2026-03-31T07:00:00.000Z'],
    ['Tue, 31 Mar 26 9:00:00 EST', date('mail'), '2026-03-31T14:00:00.000Z'],
    ['31 mar 2026 09:00 PDT', date('mail'), '2026-03-31T16:00:00.000Z'],
    ['Tuesday, 31 March 2026 9:00:00 +0200', date('mail'), '2026-03-31T07:00:00.000Z'],
    ['1 Jan 70 00:00 GMT', date('mail'), '1970-01-01T00:00:00.000Z'],
    ['31 Feb 2026 09:00:00 GMT', date('mail'), null],
    ['31 Mar 2026 09:00:00 XYZ', date('mail'), null],
    ['1774947600', date('unix'), '2026-03-31T09:00:00.000Z'],
    ['a| b |', { kind: 'list', separator: '|' }, ['a', 'b']],
    ['', number('.'), undefined],
    ['a\0b', { kind: 'text' }, null],
  ] as const)('%j as %j', (text, reading, value) => {
    const cell = readCell(text, reading);
    expect(cell.ok ? cell.value : null).toEqual(value);
  });

  test('says what is wrong with an example of what is right', () => {
    expect(readCell('twelve', number(','))).toEqual({
      ok: false,
      message: '“twelve” is not a number such as 12,50.',
    });
  });

  test('of a JSON document is kept where it has the kind, and refused where it cannot be', () => {
    expect(readValue(3, number('.'))).toEqual({ ok: true, value: 3 });
    expect(readValue(3, { kind: 'text' })).toEqual({ ok: true, value: '3' });
    expect(readValue('a', { kind: 'list', separator: '|' })).toEqual({ ok: true, value: ['a'] });
    expect(readValue({ a: 1 }, { kind: 'any' })).toEqual({ ok: true, value: { a: 1 } });
    expect(readValue({ a: 1 }, number('.')).ok).toBe(false);
    expect(readValue(null, { kind: 'text' })).toEqual({ ok: true, value: undefined });
  });

  test('numbers written in either way are read back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.constantFrom('en-GB', 'de-DE'),
        (n, locale) => {
          const value = n / 100;
          const text = new Intl.NumberFormat(locale, { minimumFractionDigits: 2 }).format(value);
          expect(readNumber(text, locale === 'de-DE' ? ',' : '.')).toBeCloseTo(value, 6);
        },
      ),
    );
  });

  test('any text under any reading gives a value or a sentence', () => {
    const readings: Reading[] = [
      number('.'),
      number(','),
      { kind: 'boolean' },
      ...(['iso', 'dmy', 'mdy', 'mail', 'unix'] as const).map(date),
      { kind: 'list', separator: ';' },
    ];
    fc.assert(
      fc.property(fc.string(), fc.constantFrom(...readings), (text, reading) => {
        const cell = readCell(text, reading);
        if (!cell.ok) expect(cell.message).toMatch(/\.$/);
      }),
    );
    for (const reading of readings) expect(readingInWords(reading)).toMatch(/\w/);
  });
});

describe('a column is read as', () => {
  test.each([
    [['1', '2.5', ''], number('.')],
    [['1,50', '12,00'], number(',')],
    [['007', '008'], { kind: 'text' }],
    [['31.1.2026', '1.2.2026'], date('dmy')],
    [['1/31/2026', '2/1/2026'], date('mdy')],
    [['2026-01-01', ''], date('iso')],
    [['yes', 'no'], { kind: 'boolean' }],
    [['a|b', 'c'], { kind: 'list', separator: '|' }],
    [['a', '1'], { kind: 'text' }],
    [['', ''], { kind: 'text' }],
  ] as const)('%j → %j', (cells, reading) => {
    expect(guessReading(cells)).toEqual(reading);
  });

  test('what fits both ways goes by what the file uses', () => {
    expect(guessReading(['1,500'], '.')).toEqual(number('.'));
    expect(guessReading(['1,500'], ',')).toEqual(number(','));
  });
});
