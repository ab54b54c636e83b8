import spectrum from 'csv-spectrum';
import { columnNames, decode, detectEncoding, FormatError, readCsv, sniffDialect } from '.';

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
  ] as const)('%j', (text, delimiter, header) => {
    expect(sniffDialect(text)).toMatchObject({ delimiter, header });
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
