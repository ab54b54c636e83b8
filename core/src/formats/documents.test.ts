import fc from 'fast-check';
import {
  detectFormat,
  FormatError,
  flatten,
  isJsonLd,
  listAt,
  listsIn,
  ordersIn,
  productsIn,
  readFeed,
  readJson,
  readNdjson,
} from '.';

describe('JSON', () => {
  const document = {
    meta: { n: 1 },
    data: { 'a/b': [{ id: 1, price: { amount: 2 } }, { id: 2 }] },
    few: [{ x: 1 }],
  };
  test('every list of records can be pointed at, the longest first', () => {
    const lists = listsIn(document);
    expect(lists.map(({ pointer, length }) => [pointer, length])).toEqual([
      ['/data/a~1b', 2],
      ['/few', 1],
    ]);
    expect(listAt(document, '/data/a~1b')).toHaveLength(2);
    expect(() => listAt(document, '/nothing')).toThrow(/no list at “\/nothing”/);
    expect(() => listAt([1], '')).toThrow(/Entry 1/);
  });
  test('records under their keys are a list where there is no other', () => {
    const products = { 'A-1': { name: 'Aster' }, 'B-2': { name: 'Bean', key: 'own' } };
    expect(listsIn({ data: products })).toEqual([
      { pointer: '/data', length: 2, fields: ['key', 'name'] },
    ]);
    expect(listAt({ data: products }, '/data')).toEqual([
      { key: 'A-1', name: 'Aster' },
      { key: 'own', name: 'Bean' },
    ]);
    // A record is one, whatever records it holds beside its fields; and lists go before.
    expect(listAt({ sku: 'A', image: { url: 'a' }, thumb: { url: 'b' } }, '')).toHaveLength(1);
    expect(listsIn({ a: products, list: [{ x: 1 }] }).map(({ pointer }) => pointer)).toEqual([
      '/list',
    ]);
    expect(listAt({ a: { name: 'x' } }, '')).toEqual([{ a: { name: 'x' } }]);
    expect(listAt({ shop: { name: 'x' }, total: { amount: 1 } }, '')).toHaveLength(1);
  });
  test('records inside become columns with a dot', () => {
    expect(
      Object.fromEntries(flatten({ id: 1, price: { amount: 2, tax: { rate: 3 } }, tags: ['a'] })),
    ).toEqual({
      id: 1,
      'price.amount': 2,
      'price.tax.rate': 3,
      tags: ['a'],
    });
  });
  test('keeps the digits of whole numbers that a number would lose, as they are keys', () => {
    expect(
      readJson('{"sku":12345678901234567890,"n":9007199254740991,"x":1.12345678901234567}'),
    ).toEqual({
      sku: '12345678901234567890',
      n: 9007199254740991,
      x: 1.1234567890123457,
    });
    expect(readJson('{"note":"0123456789012345678"}')).toEqual({ note: '0123456789012345678' });
    const hostile = readJson('{"__proto__":{"a":1},"n":12345678901234567890}') as object;
    expect(Object.getPrototypeOf(hostile)).toBe(Object.prototype);
    expect(({} as { a?: number }).a).toBeUndefined();
    expect(() => readJson('{"n":12345678901234567890,"a":1,"a":2}')).toThrow(/“a” stands twice/);
  });
  test('a record that says two things under one name is refused; the same said twice is not', () => {
    expect(() => readJson('[{"b":{"price":1,"x:y":"a:b","price":2}}]')).toThrow(
      '“price” stands twice in one record, with different values.',
    );
    expect(readJson('{"a":1,"a":1,"__proto__":2}')).toMatchObject({ a: 1 });
    expect(readNdjson('{"a":1,"a":2}')).toMatchObject([
      { ok: false, message: 'Line 1: “a” stands twice in one record, with different values.' },
    ]);
  });
  test('whatever JSON can say is read as it stands', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        // Whole numbers that a number may have rounded are kept as text: they are not meant here.
        const text = JSON.stringify(value, (_, one: unknown) =>
          typeof one === 'number' && Math.abs(one) >= 2 ** 53 ? 1 : one,
        );
        expect(readJson(text)).toEqual(JSON.parse(text));
      }),
    );
  });

  test('what is cut off, broken or nested without end is told', () => {
    expect(() => readJson('{"a":[1,')).toThrow(/ends too early|is not JSON/);
    expect(() => readJson('{\n"a": tru }')).toThrow(/not JSON/);
    expect(() => readJson('['.repeat(10_000))).toThrow(/more than 100 levels deep/);
    expect(readJson('"[[[["')).toBe('[[[[');
  });
  test('NDJSON tells the line that is no JSON', () => {
    expect(readNdjson('{"a":1}\n\n{"b":')).toMatchObject([
      { ok: true, line: 1 },
      { ok: false, line: 3 },
    ]);
  });
});

test.each([
  ['a,b\n1,2', 'table'],
  ['{"a":1}\n{"a":2}', 'ndjson'],
  ['[{"a":1}]', 'json'],
  ['{"version":"https://jsonfeed.org/version/1.1"', 'feed'],
  ['{"@context":"https://schema.org"', 'jsonld'],
  ['<?xml version="1.0"?><rss/>', 'feed'],
] as const)('%j is %s', (text, format) => {
  expect(detectFormat(text)).toBe(format);
});

const item = (inside: string) =>
  `<?xml version="1.0"?><rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/"><channel><title>Tom &amp; Co</title><link>https://a.example</link>${inside}</channel></rss>`;

describe('feeds', () => {
  test('RSS: guid, date, picture of the enclosure, summary made of the content, scripts gone', () => {
    const feed = readFeed(
      item(`<item><title>Old</title><guid>1</guid><pubDate>Mon, 02 Mar 2026 08:00:00 GMT</pubDate></item>
        <item><title>New</title><guid isPermaLink="false">2</guid><link>https://a.example/2</link>
        <pubDate>Tue, 03 Mar 2026 08:00:00 +0100</pubDate><enclosure url="https://a.example/p.png" type="image/png" length="1"/>
        <content:encoded><![CDATA[<h1>Hi</h1><script>x()</script><p onclick="x()">Words <a href="javascript:x()">here</a>.</p>]]></content:encoded>
        <category>Soil</category></item>`),
    );
    expect(feed.title).toBe('Tom & Co');
    expect(feed.posts).toEqual([
      {
        guid: '2',
        title: 'New',
        link: 'https://a.example/2',
        published_at: '2026-03-03T07:00:00.000Z',
        summary: 'Hi Words here.',
        content: '<h2>Hi</h2><p>Words <a>here</a>.</p>',
        image: 'https://a.example/p.png',
        categories: ['Soil'],
      },
      { guid: '1', title: 'Old', published_at: '2026-03-02T08:00:00.000Z', categories: [] },
    ]);
  });

  test('the first picture of the content stands in where none is named', () => {
    const [post] = readFeed(
      item(
        '<item><guid>1</guid><title>t</title><description>&lt;p&gt;x &lt;img src="https://a.example/i.png?a=1&amp;amp;b=2"&gt;&lt;/p&gt;</description></item>',
      ),
    ).posts;
    expect(post?.image).toBe('https://a.example/i.png?a=1&b=2');
  });

  test('Atom: text, HTML and XHTML', () => {
    const feed =
      readFeed(`<feed xmlns="http://www.w3.org/2005/Atom"><title>F</title><link href="https://b.example"/>
      <entry><id>a</id><title>A &amp; B</title><updated>2026-01-02T00:00:00Z</updated><author><name>Ann</name></author>
        <link rel="enclosure" type="image/png" href="https://b.example/e.png"/><link href="https://b.example/a"/>
        <summary>1 &lt; 2</summary><content type="html">&lt;p&gt;Tom &amp;amp; Co&lt;/p&gt;</content></entry>
      <entry><id>b</id><title>B</title><content type="xhtml"><div><p>Deep <b>words</b></p></div></content></entry></feed>`);
    expect(feed.link).toBe('https://b.example');
    expect(feed.posts[0]).toMatchObject({
      title: 'A & B',
      author: 'Ann',
      link: 'https://b.example/a',
      image: 'https://b.example/e.png',
      summary: '1 < 2',
      content: '<p>Tom &amp; Co</p>',
    });
    expect(feed.posts[1]?.content).toContain('<b>words</b>');
  });

  test('JSON Feed, newest first', () => {
    const feed = readFeed(
      JSON.stringify({
        version: 'https://jsonfeed.org/version/1.1',
        title: 'T',
        items: [
          { id: 1, title: 'old', date_published: '2026-01-01', content_text: 'One\n\nTwo' },
          { id: 2, title: 'new', date_published: '2026-02-01' },
        ],
      }),
    );
    expect(feed.posts.map((post) => post.title)).toEqual(['new', 'old']);
    expect(feed.posts[1]).toMatchObject({ content: '<p>One</p><p>Two</p>', summary: 'One Two' });
  });

  test('an item of a JSON Feed that cannot be read is named', () => {
    const feed = (items: unknown[]) =>
      JSON.stringify({ version: 'https://jsonfeed.org/version/1.1', title: 'T', items });
    expect(() => readFeed(feed([{ id: 1 }, { id: 2, title: 'Leeks', tags: 'a' }]))).toThrow(
      'Entry 2 (“Leeks”) of this feed: its “tags” is not what JSON Feed 1.1 asks for.',
    );
    expect(() => readFeed(feed([null]))).toThrow(
      'Entry 1 of this feed: it is not what JSON Feed 1.1 asks for.',
    );
  });

  test('posts without an id, with one that came before or with no date are passed on, to be told', () => {
    const { posts } = readFeed(
      item(
        `<item><title>A</title><guid>1</guid><pubDate>soon</pubDate></item>
         <item><title>B</title><guid>1</guid></item><item><title>C</title></item>`,
      ),
    );
    expect(posts.map(({ title, guid, published_at }) => [title, guid, published_at])).toEqual([
      ['A', '1', 'soon'],
      ['B', '1', undefined],
      ['C', undefined, undefined],
    ]);
  });

  test('bombs, entities to files, pages and broken XML are refused in words', () => {
    const bomb = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><rss><channel/></rss>';
    expect(() => readFeed(bomb)).toThrow(/^Line 1: .*DTD/);
    expect(() =>
      readFeed('<?xml version="1.0"?>\n<!ENTITY x SYSTEM "file:///etc/passwd"><rss/>'),
    ).toThrow(/^Line 2/);
    expect(() => readFeed('<!doctype html><html></html>')).toThrow(/web page/);
    expect(() => readFeed('<rss><channel>')).toThrow(/not sound XML/);
    expect(() => readFeed('<a>'.repeat(300) + '</a>'.repeat(300))).toThrow(/100 levels deep/);
    expect(() => readFeed('{"a":1}')).toThrow(/neither RSS/);
    expect(() => readFeed('<opml/>')).toThrow(/neither RSS/);
  });

  test.each([
    ['<rss>\n<channel><item></channel></rss>', 2, '</channel> stands where <item> of line 2 is'],
    ['<rss><channel>', 1, '<channel> is never closed; perhaps the file is cut off.'],
    ['<rss><channel/></rss><b></b>', 1, 'Something stands beside its outermost element.'],
    ['<rss><a/></b></rss>', 1, '</b> stands where <rss> of line 1 is to be closed first.'],
    ['<rss><ch{nel/></rss>', 1, '“ch{nel” is no name of an element.'],
    ['<rss>\n\n< a/></rss>', 3, 'A “<” stands alone: in words it is written as “&lt;”.'],
    ['<rss><a b/></rss>', 1, 'An attribute is not written as name="value".'],
    ['<rss><a b="1" b="2"/></rss>', 1, 'An attribute stands twice in one element.'],
    ['<rss>a & b</rss>', 1, 'A “&” stands alone: in words it is written as “&amp;”.'],
    [`<rss><${'x'.repeat(300)}{/></rss>`, 1, `“${'x'.repeat(40)}…” is no name of an element.`],
  ])('%# what is wrong with XML is told with its line in words', (text, line, words) => {
    expect(() => readFeed(text)).toThrow(`Line ${line}: this is not sound XML. ${words}`);
  });

  test('of XML that is cut or changed anywhere, nothing is said in the words of a validator', () => {
    const sound =
      '<?xml version="1.0"?><rss version="2.0"><channel><title>T &amp; U</title><item a="1"><link>x</link></item></channel></rss>';
    const change = fc.record({
      at: fc.nat(sound.length),
      cut: fc.nat(12),
      put: fc.constantFrom('', '<', '>', '&', '"', '/', 'x', ' ', '{', '<a>', '</b>', '="', '?'),
    });
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 3 }), (changes) => {
        let text = sound;
        for (const { at, cut, put } of changes)
          text = text.slice(0, at) + put + text.slice(at + cut);
        try {
          readFeed(text);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
          expect((error as Error).message).not.toMatch(
            /\b(?:tag '|char '|col \d|boolean|Invalid '|attribute '|expected\.|has not been)/i,
          );
        }
      }),
      { numRuns: 2_000 },
    );
  });

  test('words keep what stands in them, however they are written', () => {
    const titles = (inside: string) => readFeed(item(inside)).posts.map(({ title }) => title);
    expect(
      titles(
        [
          'A <b>bold</b> start',
          'Tea <![CDATA[& <i>cake</i>]]> today',
          '5 &lt; 6',
          '&lt;b&gt;Bold&lt;/b&gt; &amp;amp; plain',
          'R&amp;D<!-- no <b> --> news',
        ]
          .map((title, i) => `<item><guid>${i}</guid><title>${title}</title></item>`)
          .join(''),
      ),
    ).toEqual(['A bold start', 'Tea & cake today', '5 < 6', 'Bold & plain', 'R&D news']);
    const [post] = readFeed(
      item(
        '<item><guid>1</guid><description>One <i>two</i> three</description><content:encoded><p>Not <b>escaped</b></p></content:encoded></item>',
      ),
    ).posts;
    expect(post).toMatchObject({
      summary: 'One two three',
      content: '<p>Not <b>escaped</b></p>',
    });
    const atom = readFeed(
      `<feed xmlns="http://www.w3.org/2005/Atom"><title type="html">The &amp;lt;b&amp;gt;Furrow</title>
      <entry><id>1</id><title type="xhtml"><div xmlns="http://www.w3.org/1999/xhtml">Hi <b>you</b> there</div></title></entry>
      <entry><id>2</id><title>How to write &lt;b&gt;</title></entry>
      <entry><id>3</id><title type="html">How to &lt;b&gt;dig&lt;/b&gt;</title></entry></feed>`,
    );
    expect([atom.title, ...atom.posts.map(({ title }) => title)]).toEqual([
      ...['The <b>Furrow', 'Hi you there', 'How to write <b>', 'How to dig'],
    ]);
  });

  test('addresses that are written from the feed’s home on are made whole, others left as they are', () => {
    const [post] = readFeed(
      item(`<item><guid>1</guid><link>/posts/1</link>
      <description>&lt;a href="2"&gt;next&lt;/a&gt; &lt;a href="javascript:1"&gt;x&lt;/a&gt; &lt;a href="mailto:a@b.example"&gt;y&lt;/a&gt; &lt;img src="//cdn.example/a.png"&gt;</description></item>`),
    ).posts;
    expect(post).toMatchObject({
      link: 'https://a.example/posts/1',
      content:
        '<a href="https://a.example/posts/2">next</a> <a>x</a> <a href="mailto:a@b.example">y</a> <img src="https://cdn.example/a.png" />',
      image: 'https://cdn.example/a.png',
    });
    const [homeless] = readFeed(
      '<feed xmlns="http://www.w3.org/2005/Atom"><title>F</title><entry><id>1</id><link href="/1"/></entry></feed>',
    ).posts;
    expect(homeless).not.toHaveProperty('link');
  });

  test('what tells an RSS item apart is its address, unless it says that it is none', () => {
    const links = readFeed(
      item(`<item><guid>https://a.example/1</guid></item><item><guid isPermaLink="false">https://a.example/2</guid></item>
      <item><guid>https://a.example/3</guid><link>https://a.example/three</link></item><item><guid>four</guid></item>`),
    ).posts.map(({ link }) => link);
    expect(links).toEqual(['https://a.example/1', undefined, 'https://a.example/three', undefined]);
  });

  test('an entry of Atom without an author is by the feed’s; any picture that is enclosed is found', () => {
    const { posts } = readFeed(
      `<feed xmlns="http://www.w3.org/2005/Atom" xmlns:media="urn:media"><title>F</title><author><name>All &amp; one</name></author>
      <entry><id>1</id><link rel="enclosure" type="audio/mpeg" href="https://a.example/1.mp3"/><link rel="enclosure" type="image/png" href="https://a.example/1.png"/></entry>
      <entry><id>2</id><author><name>Jo</name></author><media:content url="https://a.example/2.jpg"/></entry></feed>`,
    );
    expect(posts.map(({ author, image }) => [author, image])).toEqual([
      ['All & one', 'https://a.example/1.png'],
      ['Jo', 'https://a.example/2.jpg'],
    ]);
  });

  test('JSON Feed: null is nothing, a missing id is none, words are no HTML, authors as version 1 has them', () => {
    const feed = readFeed(
      JSON.stringify({
        version: 'https://jsonfeed.org/version/1',
        ...{ title: null, home_page_url: 'https://a.example/', author: { name: 'Ann' } },
        items: [
          { id: null, url: '/1', title: 'One', image: null, tags: null, authors: null },
          { id: 7, content_text: 'a < b\r\n\r\nc', author: { name: 'Bo' }, authors: [null] },
          { title: 'Neither' },
        ],
      }),
    );
    expect(feed.posts).toEqual([
      { guid: '/1', title: 'One', link: 'https://a.example/1', author: 'Ann', categories: [] },
      {
        ...{ guid: '7', title: 'a < b c', author: 'Bo', categories: [] },
        ...{ summary: 'a < b c', content: '<p>a &lt; b</p><p>c</p>' },
      },
      { title: 'Neither', author: 'Ann', categories: [] },
    ]);
  });

  test('a summary is cut at a letter, never within one; ends of sentences are known beyond Latin', () => {
    const words = (text: string) =>
      readFeed(item(`<item><guid>1</guid><description>${text}</description></item>`)).posts[0]
        ?.summary ?? '';
    expect(words(`x${'🌱'.repeat(200)}`)).toMatch(/^x(?:🌱)+…$/u);
    expect(words(`${'種'.repeat(200)}。${'球'.repeat(100)}`)).toBe(`${'種'.repeat(200)}。`);
  });

  test('nothing that a post says leaves a script or a handler', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.constantFrom('<img src=x onerror=', '<svg/onload=', '<a href="java\tscript:'),
        (noise, attack) => {
          const html = `<p>${noise}${attack}${noise}`.replace(/]]>/g, '');
          const escaped = html
            .replace(/&/g, '&amp;')
            .replace(/</g, '&lt;')
            .replace(/[^\P{C}\n]/gu, ' ')
            .replace(/[\uD800-\uDFFF\uFFFE\uFFFF]/g, ' ');
          const { posts } = readFeed(
            item(
              `<item><guid>g</guid><title>t</title><description>${escaped}</description></item>`,
            ),
          );
          expect(posts[0]?.content ?? '').not.toMatch(
            /<(?!\/?(?:p|img|a|br|b|i|s|u|em|ul|ol|li|pre|sup|sub|hr|td|th|tr|h2|h3|h4)\b)|\son\w+=|script:/i,
          );
        },
      ),
    );
  });
});

describe('JSON-LD of schema.org', () => {
  const document = {
    '@context': 'https://schema.org',
    '@graph': [
      {
        '@type': 'Product',
        sku: 'A',
        name: 'Aster',
        image: ['https://a.example/a.png'],
        brand: { name: 'Q' },
        offers: { price: '2.50', priceCurrency: 'GBP', availability: 'https://schema.org/InStock' },
      },
      {
        '@type': 'Order',
        orderNumber: 'N1',
        orderDate: '2026-01-02',
        priceCurrency: 'GBP',
        price: 7.5,
        orderStatus: 'https://schema.org/OrderProcessing',
        customer: { '@type': 'Person', email: 'mailto:a@b.example' },
        orderedItem: [
          {
            '@type': 'OrderItem',
            orderQuantity: 3,
            price: 2.5,
            orderedItem: { '@type': 'Thing', name: 'Aster', sku: 'A' },
          },
        ],
      },
    ],
  };
  test('products and orders are found wherever they stand', () => {
    expect(isJsonLd(document)).toBe(true);
    expect(productsIn(document)).toEqual([
      {
        sku: 'A',
        name: 'Aster',
        image: 'https://a.example/a.png',
        price: 2.5,
        currency: 'GBP',
        brand: 'Q',
        in_stock: true,
      },
    ]);
    expect(ordersIn(document)).toEqual([
      {
        number: 'N1',
        email: 'a@b.example',
        placed_at: '2026-01-02',
        status: 'Processing',
        currency: 'GBP',
        total: 7.5,
        lines: [{ sku: 'A', name: 'Aster', price: 2.5, quantity: 3 }],
      },
    ]);
  });
});

describe('documents that are too much', () => {
  const rss = (inside: string) =>
    `<rss version="2.0"><channel><title>T</title>${inside}</channel></rss>`;
  const item = (i: number) => `<item><title>P${i}</title><guid>${i}</guid></item>`;
  test.each([
    ['elements', rss('<a/>'.repeat(1_000_001)), /more than 500,000 elements/],
    [
      'attributes',
      rss(`\n<a ${Array.from({ length: 1_100 }, (_, i) => `b${i}="1"`).join(' ')}/>`),
      /Line 2: .* 100 attributes/,
    ],
    ['depth', rss(`${'<a>'.repeat(120)}${'</a>'.repeat(120)}`), /nested more than 100 levels deep/],
    [
      'posts',
      rss(Array.from({ length: 10_001 }, (_, i) => item(i)).join('')),
      /10,001 posts; Carafe reads up to 10,000/,
    ],
  ])('%s are refused with a sentence', (_, text, sentence) => {
    expect(() => readFeed(text)).toThrow(sentence);
  });
  test('what stands inside CDATA counts as words', () => {
    const html = '<a href="x" b="y">'.repeat(2_000);
    const text = rss(
      `<item><title>One</title><guid>1</guid><description><![CDATA[${html}]]></description></item>`,
    );
    expect(readFeed(text).posts).toHaveLength(1);
  });

  test('a price that is no number stays as it is written, to be told; pictures are addresses, whatever their names', () => {
    const products = (...some: object[]) =>
      productsIn({ '@graph': some.map((one) => ({ '@type': 'Product', ...one })) });
    expect(
      products(
        { sku: 'A', offers: { price: '12,50', priceCurrency: 'EUR' } },
        { sku: 'B', offers: [{ priceSpecification: { price: 3, priceCurrency: 'EUR' } }] },
        { sku: 'C', offers: { '@type': 'AggregateOffer', lowPrice: '4.00' } },
        { gtin13: '4000000000017', image: { name: 'An aster', url: 'https://a.example/a.png' } },
        { mpn: 7, image: [{ contentUrl: 'https://a.example/b.png' }], offers: { price: '' } },
      ),
    ).toEqual([
      { sku: 'A', price: '12,50', currency: 'EUR' },
      { sku: 'B', price: 3, currency: 'EUR' },
      { sku: 'C', price: 4 },
      { sku: '4000000000017', image: 'https://a.example/a.png' },
      { sku: '7', image: 'https://a.example/b.png', price: '' },
    ]);
    const order = { '@type': 'Order', orderNumber: '1', orderedItem: { orderQuantity: 'two' } };
    expect(ordersIn(order)[0]).toMatchObject({ lines: [{ quantity: 'two' }] });
  });
});
