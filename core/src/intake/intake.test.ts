import fc from 'fast-check';
import {
  finished,
  findNumbered,
  hasRowLines,
  joinLines,
  mappingProblems,
  reuseMapping,
  rowReader,
  rowsApart,
  rowsAsLines,
  suggestMapping,
  targetOf,
  type Mapping,
  type Sample,
} from '.';

const now = '2026-11-25T12:00:00Z';
const catalog = targetOf('catalog');
const orders = targetOf('orders');
const german: Sample = {
  columns: ['Art.-Nr', 'Bezeichnung', 'VK-Preis', 'Lager', 'Aussaat ab', 'Bio'],
  rows: [
    ['A-1', 'Fingerhut', '1.002,95', '12', '1.3.2026', 'ja'],
    ['A-2', 'Mohn', '3,50', '0', '15.4.2026', 'nein'],
  ],
};

describe('a first mapping', () => {
  test('goes by names, in other languages too; the rest become fields of their own, typed', () => {
    expect(
      suggestMapping(german, catalog).columns.map(({ to, reading, because }) => [
        to,
        reading,
        because,
      ]),
    ).toEqual([
      ['sku', { kind: 'text' }, 'name'],
      ['name', { kind: 'text' }, 'name'],
      ['price', { kind: 'number', decimal: ',' }, 'name'],
      ['stock', { kind: 'number', decimal: ',' }, 'name'],
      ['aussaat_ab', { kind: 'date', order: 'dmy' }, 'extra'],
      ['bio', { kind: 'boolean' }, 'extra'],
    ]);
  });

  test('goes by content where names say nothing', () => {
    const sample = {
      columns: ['k', 'w', 'p'],
      rows: [
        ['a@b.example', 'https://x.example', 'https://x.example/a.png'],
        ['c@d.example', 'https://y.example', 'https://x.example/b.jpg'],
      ],
    };
    const fields = (id: 'people' | 'catalog') =>
      suggestMapping(sample, targetOf(id)).columns.map((c) => c.to);
    expect(fields('people')).toEqual(['email', 'w', 'p']);
    expect(fields('catalog')).toEqual(['k', 'url', 'image']);
  });

  test('takes each field once, whatever the columns are called', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.oneof(
            fc.string({ minLength: 1 }),
            fc.constantFrom('sku', 'SKU', 'id', 'price', 'Preis'),
          ),
          { maxLength: 8 },
        ),
        (columns) => {
          const mapped = suggestMapping({ columns, rows: [columns.map(() => 'x')] }, catalog);
          expect(mapped.columns.map((c) => c.column)).toEqual(columns);
          const used = mapped.columns.map((c) => c.to);
          expect(new Set(used).size).toBe(used.length);
        },
      ),
    );
  });
});

describe('numbered columns', () => {
  const columns = [
    'order',
    'product_1_name',
    'product_1_price',
    'product_2_name',
    'product_2_price',
  ];
  test('are found and counted from one', () => {
    expect(findNumbered(columns)).toMatchObject([{ before: 'product', members: 2 }]);
    expect(findNumbered(['item[0].sku', 'item[1].sku'])[0]?.columns.map((c) => c.member)).toEqual([
      1, 2,
    ]);
    expect(findNumbered(['address1', 'address2', 'name_1'])).toEqual([]);
  });
  test('become the lines of an order, blanks among them left out', () => {
    const sample = {
      columns: ['Order no', 'Email', 'Order date', ...columns.slice(1)],
      rows: [['N1', 'a@b.example', '2026-01-02', 'Pot', '4.50', 'Pan', '2']],
    };
    const mapping = suggestMapping(sample, orders);
    const read = rowReader(mapping, sample.columns, orders, { now });
    expect(read(sample.rows[0] ?? [])).toMatchObject({
      ok: true,
      key: 'N1',
      record: {
        lines: [{ name: 'Pot', price: 4.5, total: 4.5, quantity: 1 }, { name: 'Pan' }],
        total: 6.5,
      },
    });
    expect(read(['N2', 'a@b.example', '2026-01-02', '', '', 'Pan', '2'])).toMatchObject({
      ok: true,
      record: { lines: [{ name: 'Pan', price: 2 }] },
    });
  });
});

describe('rows', () => {
  const mapping = suggestMapping(german, catalog);
  const read = rowReader(mapping, german.columns, catalog, { now });
  test('are read as they will be stored', () => {
    expect(read(german.rows[0] ?? [])).toEqual({
      ok: true,
      key: 'A-1',
      record: Object.assign(Object.create(null), {
        aussaat_ab: { date: '2026-03-01' },
        bio: true,
        in_stock: true,
        name: 'Fingerhut',
        price: 1002.95,
        sku: 'A-1',
        stock: 12,
      }),
    });
  });
  test('are refused whole, with every reason', () => {
    expect(read(['', 'Mohn', 'teuer', '0', '1.3.2026', 'ja'])).toEqual({
      ok: false,
      key: null,
      problems: [
        { column: 'VK-Preis', message: '“teuer” is not a number such as 12,50.' },
        { column: 'Art.-Nr', message: '“SKU” is empty.' },
      ],
    });
  });
  test('that are too long are told; too short ones have blanks', () => {
    expect(read([...(german.rows[0] ?? []), 'x'])).toMatchObject({
      ok: false,
      problems: [{ column: 'Bio' }],
    });
    expect(read(['A-3', 'Kerbel'])).toMatchObject({ ok: true, record: { name: 'Kerbel' } });
  });
  test('the same data gives the same JSON, in whatever order its columns stand', () => {
    const order = [3, 0, 5, 2, 4, 1];
    const turned = order.map((i) => german.columns[i] ?? '');
    const again = rowReader({ columns: [...mapping.columns].reverse() }, turned, catalog, { now });
    const row = german.rows[1] ?? [];
    expect(JSON.stringify(again(order.map((i) => row[i])))).toBe(JSON.stringify(read(row)));
  });
  test('nothing reaches a prototype, and nothing throws', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.string(), fc.constantFrom('__proto__', 'constructor')), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.array(fc.jsonValue()),
        (columns, cells) => {
          const unique = [...new Set(columns)];
          const suggested = suggestMapping({ columns: unique, rows: [cells] }, catalog);
          rowReader(
            { columns: suggested.columns.map((c) => ({ ...c, to: c.column.trim() || 'x' })) },
            unique,
            catalog,
            { now },
          )(cells);
          expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
        },
      ),
    );
  });
});

describe('rows that are lines', () => {
  const columns = ['Order', 'Email', 'Date', 'SKU', 'Price', 'Qty', 'Engraving'];
  const own = (column: string, to: string, kind: 'text' | 'number' | 'date', line = false) => ({
    column,
    to,
    reading:
      kind === 'number'
        ? ({ kind, decimal: '.' } as const)
        : kind === 'date'
          ? ({ kind, order: 'iso' } as const)
          : ({ kind } as const),
    ...(line && { list: { name: 'lines', member: 0 } }),
  });
  const mapping: Mapping = {
    columns: [
      own('Order', 'number', 'text'),
      own('Email', 'email', 'text'),
      own('Date', 'placed_at', 'date'),
      own('SKU', 'sku', 'text', true),
      own('Price', 'price', 'number', true),
      own('Qty', 'quantity', 'number', true),
      own('Engraving', 'properties', 'text', true),
    ],
  };
  test('come together by their key, and are reckoned when all are there', () => {
    expect(hasRowLines(mapping)).toBe(true);
    const read = rowReader(mapping, columns, orders, { whole: false, now });
    const [a, b] = [
      read(['N1', 'a@b.example', '2026-01-02', 'A', '2.35', '3', 'Label: Fern | Gift: yes']),
      read(['N1', 'a@b.example', '2026-01-02', 'B', '1', '', '']),
    ];
    if (!a.ok || !b.ok) throw new Error('Both rows can be read.');
    joinLines(a.record, b.record);
    expect(finished(a.record, orders)).toMatchObject({
      ok: true,
      record: {
        subtotal: 8.05,
        total: 8.05,
        lines: [
          {
            sku: 'A',
            total: 7.05,
            properties: [
              { name: 'Label', value: 'Fern' },
              { name: 'Gift', value: 'yes' },
            ],
          },
          { sku: 'B', quantity: 1, properties: [] },
        ],
      },
    });
  });
  test.each([
    [{ lines: [{ price: 1 }] }, /neither a SKU nor a name/],
    [{ lines: [{ sku: 'A' }] }, /no price/],
    [{ lines: [{ sku: 'A', price: 1, quantity: 0 }] }, /no quantity above 0/],
    [{ lines: [3] }, /no record/],
    [{ lines: [{ sku: 'A', price: 'five' }] }, /no price/],
    [{ lines: [{ sku: 'A', price: 1, qty: 'two' }] }, /no quantity above 0/],
    [{ lines: [{ sku: 'A', price: 1, total: 'much' }] }, /total is no number/],
    [{ email: 'nobody', lines: [] }, /not an email address/],
  ])('a wrong line is told: %j', (wrong, message) => {
    const read = finished({ number: 'N', email: 'a@b.example', ...wrong }, orders);
    expect(read.ok ? '' : read.problems[0]?.message).toMatch(message);
  });
});

test('lines inside of a record are read by the names that files use, with amounts as text', () => {
  const lines = [
    { title: 'Aster', code: 'A', qty: '2', unit_price: '1.234,50', total: null },
    { name: 'Bean', title: 'A bean', sku: 'B', price: '3.00', quantity: 1, total: '' },
    { item: 'Clover', line_total: 6, pieces: 3 },
  ];
  const read = finished({ number: 'N', email: 'a@b.example', lines }, orders);
  expect(read).toMatchObject({
    ok: true,
    record: {
      subtotal: 2478,
      lines: [
        { sku: 'A', name: 'Aster', title: 'Aster', price: 1234.5, quantity: 2, total: 2469 },
        { sku: 'B', name: 'Bean', title: 'A bean', price: 3, quantity: 1, total: 3 },
        { sku: 'Clover', name: 'Clover', price: 2, quantity: 3, total: 6 },
      ],
    },
  });
});

test('names inside of records that only hold them fill the fields that are meant', () => {
  const columns = ['node.sku', 'node.title', 'node.price.amount', 'node.price.currencyCode'];
  const row = ['A-100', 'Aster', '2.50', 'GBP'];
  const to = (names: string[], target = catalog, cells = row) =>
    suggestMapping({ columns: names, rows: [cells] }, target).columns.map((one) => one.to);
  expect(to(columns)).toEqual(['sku', 'name', 'price', 'currency']);
  // A column of its own goes before one inside.
  expect(to(['product.name', 'name'], catalog, ['Aster', 'Bean'])).toEqual([
    'product_name',
    'name',
  ]);
  expect(to(['brand.name', 'sku'])[0]).not.toBe('name');
  const people = targetOf('people');
  expect(
    to(['contact.email', 'address.city', 'Opt-in status'], people, [
      'a@b.example',
      'Ely',
      'subscribed',
    ]),
  ).toEqual(['email', 'city', 'consent']);
});

describe('rows that repeat their key', () => {
  const columns = ['Order', 'Email', 'Date', 'SKU', 'Price', 'Total', 'Engraving', 'Season'];
  const sample: Sample = {
    columns,
    rows: [
      ['N1', 'a@b.example', '2026-01-02', 'A', '2.35', '2.35', 'Fern', 'spring'],
      ['N1', 'a@b.example', '2026-01-02', 'B', '1.00', '2.00', '', 'spring'],
      ['N2', 'a@b.example', '2026-01-03', 'A', '2.35', '2.35', '', 'autumn'],
    ],
  };
  const placed = (mapping: Mapping) =>
    mapping.columns.map(({ to, list }) => (list ? `${list.name}.${to ?? ''}` : to));
  test('are taken as lines: what differs between rows of one key is the line’s', () => {
    const mapping = suggestMapping(sample, orders);
    expect(placed(mapping)).toEqual([
      'number',
      'email',
      'placed_at',
      'lines.sku',
      'lines.price',
      'lines.total',
      'lines.engraving',
      'season',
    ]);
    expect(mappingProblems(mapping, orders)).toEqual([]);
    expect(placed(rowsApart(mapping)).slice(3)).toEqual([
      ...['sku', 'price', 'total', 'engraving', 'season'],
    ]);
    expect(rowsAsLines(sample, rowsApart(mapping), orders)).toEqual(mapping);
  });
  test('are not where each key comes once, unless it is asked', () => {
    const once = { columns, rows: sample.rows.slice(1) };
    const mapping = suggestMapping(once, orders);
    expect(placed(mapping)[3]).toBe('sku');
    expect(placed(rowsAsLines(once, mapping, orders)).slice(3, 6)).toEqual([
      ...['lines.sku', 'lines.price', 'total'],
    ]);
  });
  test('an order with neither lines nor a total cannot be meant', () => {
    const bare = { columns: columns.slice(0, 3), rows: sample.rows.map((row) => row.slice(0, 3)) };
    expect(mappingProblems(suggestMapping(bare, orders), orders)).toEqual([
      'Neither the lines of each order nor its total are filled. Choose a column for them, or say that each row is one line.',
    ]);
  });
});

describe('fields that a file does not contain', () => {
  const carts = targetOf('carts');
  const columns = [
    'Email',
    'product_1_name',
    'product_1_price',
    'product_2_name',
    'product_2_price',
  ];
  const cells = ['a@b.example', 'Aster', '2.50', 'Mohn', '1'];
  const mapping = suggestMapping({ columns, rows: [cells] }, carts);
  test('get the time of the import or one value in every row', () => {
    expect(mappingProblems(mapping, carts)).toEqual([
      'No column fills “Changed at”, which every cart needs.',
    ]);
    const fixed: Mapping = {
      ...mapping,
      fixed: [
        { to: 'updated_at', is: 'import_time' },
        { to: 'currency', is: 'value', value: 'GBP' },
        { to: 'discount', is: 'value', value: '0.50' },
      ],
    };
    expect(mappingProblems(fixed, carts)).toEqual([]);
    expect(rowReader(fixed, columns, carts, { now })(cells)).toMatchObject({
      ok: true,
      record: { updated_at: now, currency: 'GBP', discount: 0.5, total: 3, lines: [{}, {}] },
    });
    expect(reuseMapping(fixed, mapping).fixed).toEqual(fixed.fixed);
  });
  test('a value that is none of its field, a key, and what a column fills already are told', () => {
    const wrong: Mapping = { ...mapping, fixed: [{ to: 'total', is: 'value', value: 'much' }] };
    expect(rowReader(wrong, columns, carts, { now })(cells)).toMatchObject({
      ok: false,
      problems: [{ message: '“much” is not a number such as 12.50.' }, {}],
    });
    const blank: Mapping = { ...mapping, fixed: [{ to: 'updated_at', is: 'value', value: ' ' }] };
    expect(mappingProblems(blank, carts)).toEqual([
      'Enter the value of “Changed at” for every row.',
    ]);
    const twice: Mapping = { ...mapping, fixed: [{ to: 'email', is: 'import_time' }] };
    expect(mappingProblems(twice, carts).slice(0, 2)).toEqual([
      '“Email” fills “email”, which already has a value for every row. Leave one out.',
      '“email” identifies the rows, so it cannot be the same in every row.',
    ]);
  });
});

describe('a mapping as a whole', () => {
  test('says what is missing and what is filled twice', () => {
    const mapping = suggestMapping(german, catalog);
    expect(mappingProblems(mapping, catalog)).toEqual([]);
    const wrong = {
      columns: mapping.columns.map((c) => (c.column === 'Bezeichnung' ? { ...c, to: 'sku' } : c)),
    };
    expect(mappingProblems(wrong, catalog)).toEqual([
      '“Art.-Nr” and “Bezeichnung” both fill “sku”. Leave one out, or rename it.',
      'No column fills “Name”, which every product needs.',
    ]);
  });
  test('is used again for the next file; new columns do not take what is filled', () => {
    const kept = {
      columns: suggestMapping(german, catalog).columns.map((c) =>
        c.column === 'Bio' ? { ...c, to: null } : c,
      ),
    };
    const next = { ...german, columns: [...german.columns, 'name'] };
    const reused = reuseMapping(kept, suggestMapping(next, catalog));
    expect(reused.columns.map((c) => c.to)).toEqual([
      'sku',
      'name',
      'price',
      'stock',
      'aussaat_ab',
      null,
      null,
    ]);
  });
});

test('a second column of pictures is no link; “placed” is when an order was placed', () => {
  const pictures = (i: number) => [
    `S-${i}`,
    `Bean ${i}`,
    `https://p.example/${i}.jpg`,
    `https://p.example/${i}-large.jpg`,
  ];
  const sample = {
    columns: ['sku', 'name', 'photo', 'large photo'],
    rows: [1, 2, 3].map(pictures),
  };
  expect(suggestMapping(sample, catalog).columns.map(({ to }) => to)).toEqual([
    ...['sku', 'name', 'image', 'large_photo'],
  ]);
  const orders = {
    columns: ['number', 'email', 'placed', 'total'],
    rows: [['1', 'a@q.example', '2026-03-01', '5.00']],
  };
  expect(suggestMapping(orders, targetOf('orders')).columns[2]?.to).toBe('placed_at');
});
