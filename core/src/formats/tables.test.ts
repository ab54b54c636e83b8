import spectrum from 'csv-spectrum';
import fc from 'fast-check';
import {
  columnNames,
  decode,
  DELIMITERS,
  detectEncoding,
  FormatError,
  readCsv,
  sniffDialect,
} from '.';

const COMMA = { delimiter: ',', quote: '"', header: true } as const;

describe('csv-spectrum: every file', () => {
  let cases: { name: string; csv: Buffer; json: Buffer }[] = [];
  beforeAll((done) => {
    spectrum((error, data) => {
      cases = data;
      done(error ?? undefined);
    });
  });

  test('is read as its author says', () => {
    expect(cases.length).toBeGreaterThan(9);
    for (const { name, csv, json } of cases) {
      const text = decode(csv, detectEncoding(csv));
      const [header = [], ...rows] = readCsv(text, { ...sniffDialect(text), delimiter: ',' });
      const records = rows.map((row) =>
        Object.fromEntries(header.map((column, i) => [column, row[i] ?? ''])),
      );
      const said: unknown = JSON.parse(json.toString());
      // This one's JSON is a single record, with another phone number than its CSV.
      if (name === 'location_coordinates') {
        const { Cities, 'Location Coordinates': place } = said as Record<string, string>;
        expect(records).toMatchObject([{ Cities, 'Location Coordinates': place }]);
      } else expect({ name, records }).toEqual({ name, records: said });
    }
  });
});

describe('how a table is written is found', () => {
  test.each([
    ['a,b\n1,2\n3,4', ',', true],
    ['sku;price\nA;1,50\nB;2,25', ';', true],
    ['a\tb\n1\t2', '\t', true],
    ['a|b|c\nx|y|1', '|', true],
    ['"a, x";"b"\n"c, y";"d"', ';', true],
    ['A-1,2.50\nA-2,3.50', ',', false],
    ['SPRING-01\nSPRING-02', ',', false],
    ['Code\nSPRING-01\nSPRING-02', ',', true],
    ['A-101;Aster\nA-102;Bean', ';', false],
    ['SKU;Name\nA-101;Aster\nA-102;Bean', ';', true],
  ] as const)('%j', (text, delimiter, header) => {
    expect(sniffDialect(text)).toMatchObject({ delimiter, header });
  });

  const TABLE = 'sku;name;price;stock\n1;Aster, blue;2,50;3\n2;Bean;3,50;4\n3;Clover;1,00;\n';
  test.each([
    ['', undefined],
    ['sep=;\n', 1],
    ['\uFEFF"sep=;"\r\n', 1],
    ['Products of the autumn\n', 1],
    ['Products of the autumn;;;\nAs of;31.3.2026;;\n\n', 3],
    ['Products, as of spring,\n and summer, too\n', 2],
  ] as const)('above a table: %j', (above, skip) => {
    const found = sniffDialect(above + TABLE);
    expect(found).toMatchObject({ delimiter: ';', header: true });
    expect(found.skip).toBe(skip);
    expect(readCsv(above + TABLE, found)[0]).toEqual(['sku', 'name', 'price', 'stock']);
  });

  test('a table itself is never taken for what stands above one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.array(fc.array(fc.constantFrom('', 'a', '1,5', 'two words', '3')), { minLength: 1 }),
        (width, made) => {
          const names = Array.from({ length: width }, (_, i) => `name ${i}`);
          const rows = made.map((row) => Array.from({ length: width }, (_, i) => row[i] ?? ''));
          const text = [names, ...rows].map((row) => row.join(';')).join('\n');
          expect(sniffDialect(text).skip).toBeUndefined();
        },
      ),
      { numRuns: 300 },
    );
  });

  test('cells that could be cut otherwise take no header away', () => {
    const text = 'name 0;name 1\n1,5;1,5\n1,5;1,5';
    expect(sniffDialect(text)).toEqual({ delimiter: ';', quote: '"', header: true });
  });

  test('a separator that is named holds', () => {
    expect(sniffDialect('sep=|\na,b|c,d\n1,2|3,4')).toEqual({
      ...{ delimiter: '|', quote: '"', header: true, skip: 1 },
    });
  });

  test('single quotes', () => {
    expect(sniffDialect("a,b\n'x, y','z'\n'p, q','r'").quote).toBe("'");
  });

  test('a sample that ends inside a quoted cell', () => {
    expect(sniffDialect('a;b\n1;"two\nlines"\n3;"cut of').delimiter).toBe(';');
  });
});

describe('encodings', () => {
  const text = 'Größe;Café\n1;2';
  test.each(['utf-8', 'utf-16le', 'windows-1252'] as const)('%s', (encoding) => {
    const bytes = Buffer.from(
      text,
      ({ 'utf-8': 'utf8', 'utf-16le': 'utf16le', 'windows-1252': 'latin1' } as const)[encoding],
    );
    expect(detectEncoding(bytes)).toBe(encoding);
    expect(decode(bytes, encoding)).toBe(text);
  });
  test('marks decide, and are left out', () => {
    const big = Buffer.from(`\uFEFF${text}`, 'utf16le').swap16();
    expect(detectEncoding(big)).toBe('utf-16be');
    expect(decode(big, 'utf-16be')).toBe(text);
    expect(decode(Buffer.from(`\uFEFF${text}`), 'utf-8')).toBe(text);
  });
  test('a sample that ends inside a letter is still UTF-8', () => {
    expect(detectEncoding(Buffer.from('aé').subarray(0, 2))).toBe('utf-8');
  });
});

describe('broken tables', () => {
  const told = (text: string) => {
    try {
      readCsv(text, COMMA);
      return 'read';
    } catch (error) {
      expect(error).toBeInstanceOf(FormatError);
      return (error as FormatError).message;
    }
  };
  test('a quote never closed is told with its line', () => {
    expect(told('a,b\n1,2\n3,"four\n5,6')).toMatch(/^Line \d+: a quote is opened and never closed/);
  });
  test('a quote inside a bare cell is a letter', () => {
    expect(readCsv('a,b\n12" pot,2', COMMA)[1]).toEqual(['12" pot', '2']);
  });
  test('an endless cell', () => {
    expect(told(`a,b\n1,"${'x'.repeat(5_000_000)}"`)).toMatch(/longer than 4 MB/);
  });
  test('mixed line ends are line ends', () => {
    expect(readCsv('a,b\r\n1,2\n3,4\r5,6', COMMA)).toHaveLength(4);
  });
  test('a name twice', () => {
    expect(() => columnNames(['sku', 'name', 'sku'], true)).toThrow(
      /called “sku” \(columns 1 and 3\)/,
    );
  });
  test('columns without names are numbered', () => {
    expect(columnNames(['a', ' '], true)).toEqual(['a', 'Column 2']);
    expect(columnNames(['x', 'y'], false)).toEqual(['Column 1', 'Column 2']);
  });
});

describe('any table', () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 12 }).filter((text) => !/[\0\r]/.test(text)),
    fc.constantFrom('', 'a "quoted" word', 'two\nlines', 'semi; colon, comma', ' padded '),
  );
  const table = fc.integer({ min: 2, max: 5 }).chain((width) =>
    fc.array(fc.array(cell, { minLength: width, maxLength: width }), {
      minLength: 1,
      maxLength: 8,
    }),
  );
  const written = (rows: string[][], delimiter: string, end: string) =>
    rows.map((row) => row.map((text) => `"${text.replace(/"/g, '""')}"`).join(delimiter)).join(end);

  test('that is written by the rules is read back, whatever it holds', () => {
    fc.assert(
      fc.property(
        table,
        fc.constantFrom(...DELIMITERS),
        fc.constantFrom('\n', '\r\n'),
        (rows, delimiter, end) => {
          const dialect = { delimiter, quote: '"', header: false } as const;
          expect(readCsv(written(rows, delimiter, end), dialect)).toEqual(rows);
        },
      ),
    );
  });

  test('survives any encoding that can be found by its mark or by being sound', () => {
    fc.assert(
      fc.property(table, fc.constantFrom('utf-8', 'utf-16le', 'utf-16be'), (rows, encoding) => {
        const text = written(rows, ',', '\n');
        const marked = Buffer.from(`\uFEFF${text}`, encoding === 'utf-8' ? 'utf8' : 'utf16le');
        const bytes = encoding === 'utf-16be' ? marked.swap16() : marked;
        expect(detectEncoding(bytes)).toBe(encoding);
        expect(decode(bytes, encoding)).toBe(text.toWellFormed());
      }),
    );
  });

  test('has a delimiter found that cuts its rows into one width', () => {
    const plain = fc.array(fc.stringMatching(/^[a-z]{1,6}$/), { minLength: 3, maxLength: 3 });
    fc.assert(
      fc.property(
        fc.array(plain, { minLength: 2, maxLength: 9 }),
        fc.constantFrom(...DELIMITERS),
        (rows, delimiter) => {
          const text = rows.map((row) => row.join(delimiter)).join('\n');
          expect(sniffDialect(text).delimiter).toBe(delimiter);
        },
      ),
    );
  });

  test('any text at all is read or refused in words', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        try {
          expect(Array.isArray(readCsv(text, sniffDialect(text)))).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
      { numRuns: 500 },
    );
  });
});
