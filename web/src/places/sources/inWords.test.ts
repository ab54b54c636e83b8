import { inWords } from './inWords';
import { formulaNameFrom } from './names';

test('stored values are said in words', () => {
  expect(
    [
      true,
      1234.5,
      '',
      null,
      ['a', 'b'],
      { date: '2026-03-01' },
      '2026-03-01T09:05:00.000Z',
      [
        { name: 'Pot', quantity: 2 },
        { name: 'Label', value: '' },
      ],
    ].map(inWords),
  ).toEqual([
    'yes',
    '1,234.5',
    '',
    '',
    'a, b',
    '2026-03-01',
    expect.stringMatching(/^1 Mar 2026, \d\d:\d\d$/),
    'Pot × 2, Label: blank',
  ]);
});

test('what has no offset is UTC, as in mails', () => {
  const said = inWords('2026-03-01T09:05:00Z');
  expect(
    ['2026-03-01T09:05', '2026-03-01 09:05:00', '2026-03-01T11:05+02:00'].map(inWords),
  ).toEqual([said, said, said]);
  expect(inWords('2026-03-01T99:05')).toBe('2026-03-01T99:05');
});

test('a name for formulas is made of any words', () => {
  expect(['Spring catalog 2027', '3 Beete', 'Frühling!', '—'].map(formulaNameFrom)).toEqual([
    'spring_catalog_2027',
    'beete',
    'frühling',
    'source',
  ]);
});
