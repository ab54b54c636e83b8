import fc from 'fast-check';
import { lookAt, wholeFormatOf, targetOf } from '.';

const bytes = (text: string) => new TextEncoder().encode(text);
const catalog = targetOf('catalog');

describe('looking at a file', () => {
  test('finds how a table is written, its columns, and what they fill', () => {
    const look = lookAt(
      bytes('Art.-Nr;Bezeichnung;Preis\nA-1;Mohn;1,95\nA-2;Kerbel;2,10\n'),
      catalog,
    );
    expect(look).toMatchObject({
      columns: ['Art.-Nr', 'Bezeichnung', 'Preis'],
      settings: { format: 'table', encoding: 'utf-8', dialect: { delimiter: ';', header: true } },
    });
    expect(look.settings.mapping.columns.map((c) => c.to)).toEqual(['sku', 'name', 'price']);
  });
  test('what is given by hand holds', () => {
    const dialect = { delimiter: ',' as const, quote: '"' as const, header: false };
    const look = lookAt(bytes('a;b\n1;2'), catalog, { dialect });
    expect(look.columns).toEqual(['Column 1']);
    expect(look.rows).toHaveLength(2);
  });
  test('a beginning that is cut inside a quoted cell is read up to its last whole row', () => {
    const text = 'sku,name\nA,"one\ntwo"\nB,"three\nfo';
    expect(lookAt(bytes(text), catalog, {}, false).rows).toEqual([['A', 'one\ntwo']]);
    expect(() => lookAt(bytes(text), catalog)).toThrow(/never closed/);
  });
  test('NDJSON is read by line, records inside as columns with a dot; a line cut off is left out', () => {
    const text = '{"sku":"A","price":{"amount":2}}\n{"sku":"B","tags":["x"]}\n{"sk';
    const look = lookAt(bytes(text), catalog, {}, false);
    expect(look.columns).toEqual(['sku', 'price.amount', 'tags']);
    expect(look.rows).toHaveLength(2);
  });
  test('a JSON document offers its lists, the longest first', () => {
    const document = { a: [{ x: 1 }], b: { c: [{ sku: 'A' }, { sku: 'B' }] } };
    const look = lookAt(bytes(JSON.stringify(document)), catalog);
    expect(look.lists.map((l) => l.pointer)).toEqual(['/b/c', '/a']);
    expect(look.settings.pointer).toBe('/b/c');
    expect(lookAt(bytes(JSON.stringify(document)), catalog, { pointer: '/a' }).columns).toEqual([
      'x',
    ]);
  });
  test('JSON-LD and feeds come in the words of their target', () => {
    const product = {
      '@context': 'https://schema.org',
      '@type': 'Product',
      sku: 'A',
      name: 'Aster',
      offers: { price: '2.50', priceCurrency: 'EUR' },
    };
    const look = lookAt(bytes(JSON.stringify(product)), catalog);
    expect(look.settings.format).toBe('jsonld');
    expect(look.rows[0]).toEqual(expect.arrayContaining(['A', 'Aster', 2.5, 'EUR']));
    const rss =
      '<rss version="2.0"><channel><title>T</title><item><guid>1</guid><title>Post</title></item></channel></rss>';
    expect(lookAt(bytes(rss), targetOf('feed')).rows[0]).toContain('Post');
  });
  test.each([
    ['', /empty/],
    ['{"a":1', /JSON/],
    ['\n\n', /empty/],
    ['[]', /./],
  ])('%j cannot be read, which is told', (text, says) => {
    try {
      expect(lookAt(bytes(text), catalog).rows).toEqual([]);
    } catch (error) {
      expect((error as Error).name).toBe('FormatError');
      expect((error as Error).message).toMatch(says);
    }
  });
  test('tables and lines can be told from their beginning, documents cannot', () => {
    for (const text of ['a,b\n1,2', '{"a":1}\n{"a":2}'])
      expect(wholeFormatOf(bytes(text))).toBeNull();
    expect(wholeFormatOf(bytes('<rss>'))).toEqual({ format: 'feed', encoding: 'utf-8' });
    expect(wholeFormatOf(bytes('[{"a":1'))).toEqual({ format: 'json', encoding: 'utf-8' });
  });
  test('any bytes are looked at or refused with a sentence, nothing else', () => {
    fc.assert(
      fc.property(fc.oneof(fc.uint8Array({ maxLength: 300 }), fc.string().map(bytes)), (any) => {
        try {
          lookAt(any, catalog);
        } catch (error) {
          expect((error as Error).name).toBe('FormatError');
        }
      }),
      { numRuns: 300 },
    );
  });
});
