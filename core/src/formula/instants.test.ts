import { assert, date, integer, property, string, tuple } from 'fast-check';
import { instantOf, readDate } from './values';

const two = (n: number) => String(n).padStart(2, '0');

test('an instant as it is stored reads back as itself, whatever the year', () => {
  assert(
    property(
      date({
        min: new Date('0001-01-01T00:00:00.000Z'),
        max: new Date('9999-12-31T23:59:59.999Z'),
        noInvalidDate: true,
      }),
      (at) => {
        expect(readDate(at.toISOString())?.getTime()).toBe(at.getTime());
      },
    ),
  );
});

test('an instant is what Date.parse makes of it, however it is written', () => {
  const instant = date({
    ...{ min: new Date('0001-01-01T00:00:00.000Z'), max: new Date('9999-12-31T23:59:59.999Z') },
    noInvalidDate: true,
  });
  assert(
    property(instant, (at) => {
      const text = at.toISOString();
      for (const one of [text, text.slice(0, 10), text.replace('Z', '+02:00'), `${text}x`])
        expect([one, instantOf(one)]).toEqual([one, Date.parse(one)]);
    }),
  );
  for (const text of [
    '',
    'soon',
    '2026-11-24',
    '2024-02-29T00:00:00.000Z',
    '1900-03-01T00:00:00.000Z',
  ])
    expect([text, instantOf(text)]).toEqual([text, Date.parse(text)]);
});

test('no day and no hour that does not exist is taken, as with the offset written out', () => {
  const parts = tuple(
    ...([integer({ min: 0, max: 14 }), integer({ min: 0, max: 33 })] as const),
    ...([integer({ min: 0, max: 26 }), integer({ min: 0, max: 62 })] as const),
  );
  assert(
    property(parts, ([month, day, hour, minute]) => {
      const text = `2027-${two(month)}-${two(day)}T${two(hour)}:${two(minute)}:00.250`;
      expect(readDate(`${text}Z`)).toEqual(readDate(`${text}+00:00`));
    }),
  );
});

test('what only looks like an instant is none', () => {
  for (const text of [
    ...['2026-11-24T09:00:00.00xZ', '20x6-11-24T09:00:00.000Z', '2026-02-29T09:00:00.000Z'],
    ...['2026-11-24t09:00:00.000Z', '2026-11-24T09:00:60.000Z', '2026-11-31T09:00:00.000Z'],
  ])
    expect(readDate(text)).toBeUndefined();
  assert(
    property(string({ minLength: 24, maxLength: 24, unit: 'binary-ascii' }), (text) => {
      const read = readDate(text);
      expect(read === undefined || /^\s*\d{4}-\d{2}-\d{2}/.test(text)).toBe(true);
    }),
  );
});
