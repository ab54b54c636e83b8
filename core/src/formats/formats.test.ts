import { readCell, readJsonFeed, readNdjson, readTable } from '.';

describe('cells', () => {
  test.each([
    ['12.50', 'number', 12.5],
    ['1,5', 'number', null],
    ['yes', 'boolean', true],
    ['maybe', 'boolean', null],
    ['2026-03-31', 'date', '2026-03-31'],
    ['31.3.2026', 'date', null],
    ['a| b |', 'list', ['a', 'b']],
    ['', 'number', undefined],
  ] as const)('%j as a %s', (text, kind, value) => {
    const cell = readCell(text, kind);
    expect(cell.ok ? cell.value : null).toEqual(value);
  });
});

describe('tables', () => {
  test('read quotes, line ends and a BOM; kinds are guessed where none is said', () => {
    const { rows, problems } = readTable(
      '\uFEFFsku,n,on,note\r\n"A,1",2.50,true,"two\r\nlines"\r\n007,3,no,\r\n',
      { sku: 'text' },
    );
    expect(problems).toEqual([]);
    expect(rows.map((row) => ({ ...row }))).toEqual([
      { sku: 'A,1', n: 2.5, on: true, note: 'two\r\nlines' },
      { sku: '007', n: 3, on: false },
    ]);
  });

  test('tell row and column of what cannot be read, and leave the row out', () => {
    const { rows, problems } = readTable('a,b\n1,x\n2,3', { b: 'number' });
    expect(problems).toMatchObject([{ row: 2, column: 'b' }]);
    expect(rows).toHaveLength(1);
  });

  test('hostile column names stay plain keys', () => {
    const { rows } = readTable('__proto__,constructor\nx,y', {});
    expect(Object.keys(rows[0] ?? {})).toEqual(['__proto__', 'constructor']);
    expect(({} as Record<string, unknown>)['x']).toBeUndefined();
  });
});

test('NDJSON tells the line that is not JSON', () => {
  expect(readNdjson('{"a":1}\n\n{"b":')).toMatchObject([
    { ok: true, line: 1 },
    { ok: false, line: 3 },
  ]);
});

test('a JSON Feed becomes posts, newest first', () => {
  const feed = readJsonFeed({
    version: 'https://jsonfeed.org/version/1.1',
    title: 'T',
    items: [
      { id: 1, title: 'old', date_published: '2026-01-01' },
      { id: 2, title: 'new', date_published: '2026-02-01' },
    ],
  });
  expect(feed.posts.map((post) => post['title'])).toEqual(['new', 'old']);
  expect(() => readJsonFeed({ title: 'T' })).toThrow();
});
