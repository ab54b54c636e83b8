import fc from 'fast-check';
import { guessReading, readCell, Reading, readingInWords, readNumber, readValue } from '.';
import { likelyOrder } from './dateCells';

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
    ['1,2,3', number('.'), null],
    ['₹1,23,456.50', number('.'), 123456.5],
    ['1,23,456', number(','), null],
    ['.5', number('.'), 0.5],
    ['-,5', number(','), -0.5],
    ['.', number('.'), null],
    ['(£3.40)', number('.'), -3.4],
    ['(0)', number('.'), 0],
    ['(3.40', number('.'), null],
    ['-(3.40)', number('.'), null],
    ['kr 12,50', number(','), 12.5],
    ['kr', number(','), null],
    ['yes', { kind: 'boolean' }, true],
    ['nein', { kind: 'boolean' }, false],
    ['WAHR', { kind: 'boolean' }, true],
    ['FAUX', { kind: 'boolean' }, false],
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
    ['2026-03-31 09:00:00 +0200', date('iso'), '2026-03-31T09:00:00+02:00'],
    ['2026/3/1 9:05', date('iso'), '2026-03-01T09:05:00Z'],
    ['20260331', date('iso'), '2026-03-31'],
    ['10260331', date('iso'), null],
    ['2026/03-31', date('iso'), null],
    ['3/31/26', date('mdy'), '2026-03-31'],
    ['31.12.69', date('dmy'), '1969-12-31'],
    ['1.2.26', date('dmy'), '2026-02-01'],
    ['10-11-12', date('dmy'), null],
    ['3/31/2026 9:05 PM', date('mdy'), '2026-03-31T21:05:00Z'],
    ['3/31/2026, 12:30 a.m.', date('mdy'), '2026-03-31T00:30:00Z'],
    ['3/31/2026 13:05 PM', date('mdy'), null],
    ['31/03/2026 25:00', date('dmy'), null],
    ['31-Mar-26', date('mail'), '2026-03-31'],
    ['March 31st, 2026 9:05 am', date('mail'), '2026-03-31T09:05:00.000Z'],
    ['Marzipan 3, 2026', date('mail'), null],
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

  test('versions and article numbers are not guessed to be dates; a column of dates gets the order that reads most', () => {
    expect(guessReading(['1.2.34', '1.2.35'])).toEqual({ kind: 'text' });
    expect(guessReading(['10-11-12', '10-11-13'])).toEqual({ kind: 'text' });
    expect(guessReading(['1.2.26', '31.3.26'])).toEqual(date('dmy'));
    expect(guessReading(['01.02.26'])).toEqual(date('dmy'));
    expect(guessReading(['1 Feb 2026', 'Mar 31, 2026'])).toEqual(date('mail'));
    expect(likelyOrder(['1.2.26', '13.2.26', 'soon'])).toBe('dmy');
    expect(likelyOrder(['1/2/26', '3/31/26'])).toBe('mdy');
    expect(likelyOrder(['20260331', '20260401'])).toBe('iso');
    expect(likelyOrder(['1774947600'])).toBe('unix');
    expect(likelyOrder([])).toBe('iso');
  });

  test('amounts are read back as people of many places write them', () => {
    const places = [
      ...[['en-GB', 'GBP', '.'] as const, ['en-US', 'USD', '.'] as const],
      ...[['en-IN', 'INR', '.'] as const, ['de-CH', 'CHF', '.'] as const],
      ...[['de-DE', 'EUR', ','] as const, ['fr-FR', 'EUR', ','] as const],
      ...[['sv-SE', 'SEK', ','] as const, ['da-DK', 'DKK', ','] as const],
      ...[['nb-NO', 'NOK', ','] as const, ['pl-PL', 'PLN', ','] as const],
      ...[['cs-CZ', 'CZK', ','] as const, ['hu-HU', 'HUF', ','] as const],
      ...[['pt-BR', 'BRL', ','] as const, ['en-CA', 'USD', '.'] as const],
    ] as const;
    const styles = ['decimal', 'currency'] as const;
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.constantFrom(...places),
        fc.constantFrom(...styles),
        (n, [locale, currency, decimal], style) => {
          const digits = { minimumFractionDigits: 2, maximumFractionDigits: 2 };
          const write = new Intl.NumberFormat(locale, { style, currency, ...digits });
          const text = write.format(n / 100);
          expect([text, readNumber(text, decimal)]).toEqual([text, n / 100]);
        },
      ),
      { numRuns: 500 },
    );
  });

  test('days are read back as people of many places write them', () => {
    const ways = [
      ...[['en-GB', 'short', 'dmy'] as const, ['en-GB', 'medium', 'mail'] as const],
      ...[['en-GB', 'long', 'mail'] as const, ['en-GB', 'full', 'mail'] as const],
      ...[['en-US', 'short', 'mdy'] as const, ['en-US', 'long', 'mail'] as const],
      ...[['de-DE', 'short', 'dmy'] as const, ['de-DE', 'medium', 'dmy'] as const],
      ...[['sv-SE', 'short', 'iso'] as const, ['fr-FR', 'short', 'dmy'] as const],
    ] as const;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 25_000 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.constantFrom(...ways),
        fc.boolean(),
        (day, minute, [locale, dateStyle, order], hasTime) => {
          const at = new Date(day * 86_400_000 + minute * 60_000);
          const time = hasTime ? ({ timeStyle: 'short' } as const) : {};
          const text = new Intl.DateTimeFormat(locale, { dateStyle, ...time, timeZone: 'UTC' })
            .format(at)
            .replace(' at ', ', ');
          const cell = readCell(text, date(order));
          const read = cell.ok ? new Date(String(cell.value)).getTime() : NaN;
          // Years of two digits are of the hundred years around 2000.
          const years = (ms: number) => new Date(ms).setUTCFullYear(2000);
          const given = hasTime ? at.getTime() : day * 86_400_000;
          expect([text, years(read)]).toEqual([text, years(given)]);
          if (dateStyle !== 'short') expect([text, read]).toEqual([text, given]);
        },
      ),
      { numRuns: 500 },
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
