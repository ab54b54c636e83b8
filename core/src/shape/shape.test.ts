import fc from 'fast-check';
import {
  fieldNamed,
  fieldAt,
  fieldPaths,
  inferShape,
  kindName,
  memberShape,
  ShapeBuilder,
  type Shape,
} from '.';

const people = [
  {
    person: { name: 'Ada', age: 3, tags: ['a'], joined: new Date(0), 'odd name': 1 },
    lines: [{ sku: 'x' }, { sku: null }],
  },
  { person: { name: ' ', age: null, tags: [] }, lines: [] },
  { person: { name: 'Cy', extra: { deep: true } }, lines: [{ sku: 'y', price: 2 }] },
];
const shape = inferShape(people);
const person = shape.kind === 'record' ? shape.fields['person']?.shape : undefined;
const field = (name: string) => (person?.kind === 'record' ? person.fields[name] : undefined);

describe('the shape of records', () => {
  test('counts how often a field is filled: blanks and empty lists are not', () => {
    expect(['name', 'age', 'tags', 'extra'].map((n) => [field(n)?.filled, field(n)?.of])).toEqual([
      [2, 3],
      [1, 3],
      [1, 3],
      [1, 3],
    ]);
  });

  test('knows types and keeps samples', () => {
    expect(['name', 'age', 'joined', 'extra'].map((n) => field(n)?.shape.kind)).toEqual([
      'text',
      'number',
      'date',
      'record',
    ]);
    expect(field('name')?.samples).toEqual(['Ada', 'Cy']);
  });

  test('of lists is that of their members, counted over the members', () => {
    const lines = shape.kind === 'record' ? shape.fields['lines']?.shape : undefined;
    const member = lines && memberShape(lines);
    expect(
      member?.kind === 'record' && [member.fields['sku']?.filled, member.fields['sku']?.of],
    ).toEqual([2, 3]);
  });

  test('is open where kinds are mixed or nothing was seen', () => {
    const mixed = inferShape([
      { a: 1, b: null },
      { a: 'x', b: undefined },
    ]);
    expect(
      mixed.kind === 'record' && [mixed.fields['a']?.shape.kind, mixed.fields['b']?.shape.kind],
    ).toEqual(['any', 'any']);
    expect(kindName({ kind: 'any' })).toBe('anything');
  });

  test('of any JSON is found without a throw, hostile keys as plain fields', () => {
    fc.assert(fc.property(fc.array(fc.jsonValue()), (records) => void inferShape(records)));
    const hostile = inferShape([JSON.parse('{"__proto__":{"x":1}}')]);
    expect(hostile.kind === 'record' && Object.keys(hostile.fields)).toEqual(['__proto__']);
    expect(({} as Record<string, unknown>)['x']).toBeUndefined();
  });
});

describe('paths', () => {
  test('are written as formulas write them, members of loops first', () => {
    const lines = shape.kind === 'record' ? shape.fields['lines']?.shape : undefined;
    const paths = fieldPaths(shape, lines ? [{ shape: lines, as: 'line' }] : []).map((p) => p.path);
    expect(paths.slice(0, 2)).toEqual(['line.sku', 'line.price']);
    expect(paths).toEqual(
      expect.arrayContaining(['person.name', 'person["odd name"]', 'person.extra.deep', 'lines']),
    );
  });
});

test('a field is found by its path, through lists to what their members have', () => {
  const orders = inferShape([{ order: { status: 'Sent', lines: [{ product: { price: 3 } }] } }]);
  expect(fieldAt(orders, 'order.status')?.samples).toEqual(['Sent']);
  expect(fieldAt(orders, 'order.lines.product.price')?.shape.kind).toBe('number');
  expect(fieldAt(orders, 'order.lines.product')?.shape.kind).toBe('record');
  for (const none of ['order.nothing', 'nothing.status', 'order.status.length', ''])
    expect(fieldAt(orders, none)).toBeUndefined();
});

test('what is the same object in many places is looked at once, and counted in each', () => {
  const product = fc.record(
    { name: fc.string(), tags: fc.array(fc.string(), { maxLength: 3 }), price: fc.double() },
    { requiredKeys: [] },
  );
  const carts = fc.array(product, { minLength: 1, maxLength: 4 }).chain((products) =>
    fc.array(
      fc.record({
        of: fc.constantFrom(...products),
        lines: fc.array(fc.constantFrom(...products), { maxLength: 5 }),
      }),
      { maxLength: 12 },
    ),
  );
  // Samples come in another order: the first of many are kept.
  const bare = (shape: unknown) =>
    JSON.stringify(shape, (key, value: unknown) => (key === 'samples' ? undefined : value));
  fc.assert(
    fc.property(carts, (records) => {
      const builder = new ShapeBuilder({ isShared: (record) => 'price' in record });
      for (const record of records) builder.add(record);
      const seen = builder.shape();
      expect(bare(sorted(seen))).toBe(bare(sorted(inferShape(records))));
      expect(bare(sorted(builder.shape()))).toBe(bare(sorted(seen)));
    }),
  );
});

/** With its fields by name: they come in the order in which they were seen. */
function sorted(shape: Shape): Shape {
  if (shape.kind === 'list') return { ...shape, of: sorted(shape.of) };
  if (shape.kind !== 'record') return shape;
  const fields = Object.entries(shape.fields).sort(([a], [b]) => (a < b ? -1 : 1));
  return {
    ...shape,
    fields: Object.fromEntries(fields.map(([k, f]) => [k, { ...f, shape: sorted(f.shape) }])),
  };
}

test('a text that takes few values has all of them to choose from, a list of texts too', () => {
  const kinds = ['Bulbs', 'Books', 'Gifts', 'Pots', 'Seeds', 'Tools'];
  const shape = inferShape(
    kinds.map((kind, i) => ({
      kind,
      sku: `S${i}`,
      notes: 'x'.repeat(70 + i),
      tags: [kind, 'new'],
    })),
  );
  const field = (name: string) => fieldNamed(shape, name);
  expect(field('kind')?.values).toEqual(['Books', 'Bulbs', 'Gifts', 'Pots', 'Seeds', 'Tools']);
  expect(field('tags')?.values).toContain('Tools');
  expect(field('notes')?.values).toBeUndefined();
  const many = inferShape(Array.from({ length: 200 }, (_, i) => ({ sku: `S${i}` })));
  expect(fieldNamed(many, 'sku')?.values).toBeUndefined();
});
