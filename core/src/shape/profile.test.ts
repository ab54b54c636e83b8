import fc from 'fast-check';
import { ProfileBuilder } from '.';

function profile(records: object[]) {
  const builder = new ProfileBuilder();
  for (const record of records) builder.add(record);
  return Object.fromEntries(builder.fields().map((field) => [field.name, field]));
}

describe('a profile', () => {
  const fields = profile([
    {
      sku: 'A',
      price: 3,
      tags: ['x', 'y'],
      sown: { date: '2026-03-01' },
      hardy: true,
      added_at: '2026-01-02',
    },
    { sku: 'B', price: 1.5, tags: ['x'], sown: { date: '2025-03-01' }, hardy: false, note: ' ' },
    { sku: 'C', price: null, tags: [], hardy: true, mixed: 3, inside: { a: 1 } },
    { sku: 'C', price: 3, mixed: 'three' },
  ]);
  test('tells kinds, and how often each is filled of all rows', () => {
    expect(
      Object.values(fields).map(({ name, kind, filled, of }) => [name, kind, filled, of]),
    ).toEqual([
      ['sku', 'text', 4, 4],
      ['price', 'number', 3, 4],
      ['tags', 'list', 2, 4],
      ['sown', 'date', 2, 4],
      ['hardy', 'boolean', 3, 4],
      ['added_at', 'date', 1, 4],
      ['note', 'none', 0, 4],
      ['mixed', 'mixed', 2, 4],
      ['inside', 'record', 1, 4],
    ]);
  });
  test('tells ranges: of numbers, dates and the lengths of lists', () => {
    const range = (name: string) => [fields[name]?.least, fields[name]?.greatest];
    expect(['price', 'sown', 'tags', 'sku'].map(range)).toEqual([
      ['1.5', '3'],
      ['2025-03-01', '2026-03-01'],
      ['1', '2'],
      [null, null],
    ]);
  });
  test('counts different values, the commonest first; of lists their members', () => {
    expect(fields['sku']).toMatchObject({
      distinct: 3,
      more: false,
      commonest: [{ value: 'C', count: 2 }],
    });
    expect(fields['tags']?.commonest).toEqual([{ value: 'x', count: 2 }]);
    expect(fields['hardy']?.samples).toEqual(['yes', 'no']);
  });
  test('stops telling values apart at some point, and says so', () => {
    const many = profile(Array.from({ length: 20_500 }, (_, i) => ({ id: `v${i % 20_400}` })));
    expect(many['id']).toMatchObject({ distinct: 20_000, more: true, filled: 20_500 });
  });
  test('of any rows is told without a throw, hostile names as plain ones', () => {
    fc.assert(
      fc.property(fc.array(fc.dictionary(fc.string(), fc.jsonValue())), (records) => {
        for (const { filled, of, distinct } of Object.values(profile(records))) {
          expect(filled).toBeLessThanOrEqual(of);
          expect(distinct).toBeGreaterThanOrEqual(0);
        }
      }),
    );
    expect(Object.keys(profile([JSON.parse('{"__proto__":1}') as object]))).toBeDefined();
    expect(({} as Record<string, unknown>)['kind']).toBeUndefined();
  });
});
