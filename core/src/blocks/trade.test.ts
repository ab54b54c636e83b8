import { mailOf } from '../build/testing';
import { checkSites } from '../check';
import { withStandard } from '../record';
import { inferShape } from '../shape';
import { templateSites } from '../site';
import {
  blankTemplate,
  composer,
  countedIds,
  newBlock,
  readTemplate,
  type Block,
  type BlockKind,
} from '../template';
import { BLOCKS } from '.';

const newId = countedIds();
const c = composer(newId);
const posts = [
  {
    ...{ title: 'Leeks', link: 'https://j.example/leeks', summary: 'Sow them now & thin them.' },
    ...{
      image: 'https://j.example/leeks.png',
      author: 'Ann',
      published_at: '2026-11-20T08:00:00Z',
    },
  },
  { title: 'Tools <sharp>', link: 'javascript:1', published_at: '2026-11-22T08:00:00Z' },
];
const record = {
  person: { first_name: 'Maud' },
  shop: { name: 'Seed House', url: 'https://s.example', address: 'The Mill', locale: 'en-GB' },
  links: { unsubscribe: 'https://s.example/u', preferences: 'https://s.example/p' },
  feeds: { journal: { posts } },
  coupon: {
    welcome: { code: 'HELLO', value_text: '10 % off', expires_at: '2026-12-24T00:00:00Z' },
  },
  cart: { currency: 'GBP', lines: [{ name: 'Pot' }, { name: 'Pan' }] },
};
const SOURCES = { catalogs: ['garden'], feeds: ['journal'], coupons: ['welcome'] };

async function mail(block: Block, of: object = record) {
  const template = blankTemplate('T', 's', [c.section('S', [block])]);
  const read = readTemplate(JSON.parse(JSON.stringify(template)));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const { mail: made, findings } = await mailOf(read.template, of as never);
  return {
    html: made.html.replace(/\n(?=[a-z-]+=")/g, ' '),
    text: made.text,
    findings: findings.map((f) => f.message),
  };
}
const made = <K extends BlockKind>(kind: K, more: object = {}) =>
  ({ ...newBlock(kind, newId, SOURCES), ...more }) as Block;

test.each([
  ...['posts', 'coupon', 'gallery', 'menu', 'group', 'html', 'foot'],
  ...['links', 'video', 'notes'],
] as BlockKind[])(
  'a new block of kind %s has no findings, and a text part or nothing to say',
  async (kind) => {
    const block = made(kind);
    const template = blankTemplate('T', 's', [c.section('S', [block])]);
    const shape = withStandard(inferShape([{ ...record, cart: undefined }]), 1);
    const found = checkSites(templateSites(template), shape).filter(
      ({ message }) => !message.includes('shop.logo'),
    );
    expect(found.map((f) => f.message)).toEqual([]);
    const { findings } = await mail(block);
    expect(findings).toEqual([]);
    expect(BLOCKS[kind].label(block as never)).not.toBe('');
  },
);

describe('posts', () => {
  test('the newest first, each with its parts; what a post does not have leaves nothing', async () => {
    const { html, text } = await mail(made('posts'));
    expect(html.indexOf('Tools &lt;sharp&gt;')).toBeLessThan(html.indexOf('Leeks'));
    expect(html).toContain('href="https://j.example/leeks"');
    expect(html).not.toContain('javascript');
    expect(html.match(/<img /g)).toHaveLength(1);
    expect(html).toContain('Sow them now &amp; thin them.');
    expect(text).toContain('Leeks\n20 November 2026\nSow them now & thin them.\nRead on: https://');
    expect(text.match(/Read on/g)).toHaveLength(1);
  });

  test('the first one large: its picture over the whole width, the others beside their words', async () => {
    const turned = {
      ...record,
      feeds: { journal: { posts: [posts[0], { ...posts[0], title: 'B' }] } },
    };
    const { html } = await mail(made('posts', { first_large: true }), turned);
    const widths = [...html.matchAll(/<img [^>]*width="(\d+)"/g)].map(([, width]) => width);
    expect(widths).toEqual(['552', '140']);
    expect(html.match(/font-size:24px/g)).toHaveLength(1);
  });

  test('a whole post with its lists, links and pictures, and nothing that may not stand in a mail', async () => {
    const content =
      '<h1>Leeks</h1><ul><li>Sow &amp; thin</li></ul><a href="/about">About</a><a href="https://j.example/x">More</a>' +
      '<img src="https://j.example/a.png" width="900" onerror="x()"><img src="cid:1"><script>x()</script><p style="position:fixed">End';
    const record2 = { ...record, feeds: { journal: { posts: [{ ...posts[0], content }] } } };
    const whole = (formatted: boolean) =>
      mail(made('posts', { picture: 'none', parts: [{ show: 'whole', formatted }] }), record2);
    const { html, text } = await whole(true);
    expect(html).toContain('<h2>Leeks</h2><ul><li>Sow &amp; thin</li></ul><span>About</span>');
    expect(html).toContain('<a href="https://j.example/x" target="_blank">More</a>');
    expect(html.match(/<img /g)).toHaveLength(1);
    expect(html).toContain('width="900" style="max-width:100%;height:auto;border:0"');
    expect(html).not.toMatch(/<script|onerror|position:fixed|cid:/);
    expect(text).toContain('Sow & thin');
    expect((await whole(false)).html).not.toContain('<ul>');
    // A post without it says its summary.
    const { html: short } = await mail(
      made('posts', { picture: 'none', parts: [{ show: 'whole', formatted: true }] }),
    );
    expect(short).toContain('Sow them now &amp; thin them.');
  });

  test('what is said when there is none, and nothing where nothing is to be said', async () => {
    const none = { ...record, feeds: { journal: { posts: [] } } };
    expect((await mail(made('posts', { empty: 'All quiet.' }), none)).text).toBe('All quiet.\n');
    expect((await mail(made('posts'), none)).html).not.toContain('<img');
    expect((await mail(made('posts', { empty: 'All quiet.' }))).text).not.toContain('quiet');
  });
});

describe('coupon', () => {
  test('shows the code, its worth and its end; without a code nothing is promised', async () => {
    const { html, text } = await mail(made('coupon'));
    expect(html).toMatch(/>HELLO</);
    expect(text).toBe('10 % off: HELLO\nUntil 24 December 2026\n');
    const none = await mail(made('coupon'), { ...record, coupon: {} });
    expect(none.html).not.toContain('dashed');
    expect(none.text.trim()).toBe('');
  });
  test('a code of one’s own is the same for everybody, with a button', async () => {
    const { text } = await mail(
      made('coupon', {
        code: 'SAVE',
        value: 'A gift',
        terms: undefined,
        label: 'Shop',
        href: 'https://s.example',
      }),
    );
    expect(text).toBe('A gift: SAVE\nShop: https://s.example\n');
  });
});

test('gallery: its arrangements keep their columns, and a missing picture its place', async () => {
  const pictures = ['a', 'b', '', 'd', 'e'].map((name) => ({
    src: name && `https://p.example/${name}.png`,
    alt: `Picture ${name}`,
  }));
  const cells = async (arrangement: string) => {
    const { html } = await mail(made('gallery', { pictures, arrangement }));
    return [...html.matchAll(/table-layout:fixed"><tr>(.*?)<\/tr>/gs)].map(
      ([, row = '']) => row.match(/<td/g)?.length,
    );
  };
  expect(await cells('row')).toEqual([5]);
  expect(await cells('pairs')).toEqual([2, 2, 1]);
  expect(await cells('large_first')).toEqual([1, 3, 1]);
  const { text, html } = await mail(made('gallery', { pictures, arrangement: 'row' }));
  expect(html).not.toContain('src=""');
  expect(text).toBe('Picture a\nPicture b\nPicture d\nPicture e\n');
});

test('menu and foot: links that lead nowhere are left out', async () => {
  const menu = await mail(
    made('menu', {
      links: [
        { label: 'Shop', href: '{{ shop.url }}' },
        { label: 'Nowhere', href: '{{ shop.nothing }}' },
      ],
    }),
  );
  expect(menu.text).toBe('Shop: https://s.example\n');
  expect(menu.html).not.toContain('Nowhere');
  const foot = await mail(made('foot', { words: 'You asked for it.', preferences: undefined }));
  expect(foot.text).toBe(
    'You asked for it.\nSeed House, The Mill\nUnsubscribe: https://s.example/u\n',
  );
  const bare = await mail(made('foot'), { ...record, shop: { name: 'Seed House' } });
  expect(bare.text).toContain('Seed House\nUnsubscribe');
});

test('group: what it holds shows and repeats as one', async () => {
  const block = made('group', {
    blocks: [
      c.heading('{{ loop.position }} of {{ loop.count }}: {{ line.name }}'),
      c.text('Yours.'),
    ],
    loop: { list: 'cart.lines', as: 'line' },
    background: '#ffeeaa',
  });
  const { text, html } = await mail(block);
  expect(text).toBe('1 of 2: Pot\n\nYours.\n\n2 of 2: Pan\n\nYours.\n');
  expect(html.match(/background:#ffeeaa/g)).toHaveLength(2);
});

describe('HTML of one’s own', () => {
  const html = async (source: string) => mail(made('html', { source }));
  test('is cleaned, and what is left out is told', async () => {
    const { html: shown, findings } = await html(
      '<p onclick="x()" style="color:red;background:url(http://x)">Hi</p><script>x()</script><form><input></form>',
    );
    expect(shown).toContain('<p style="color:red">Hi</p>');
    expect(shown).not.toMatch(/<script|onclick|<form|<input|url\(/);
    expect(findings).toEqual([
      '“onclick”, “script”, “form”, “input” cannot stand in an email and are left out.',
    ]);
  });
  test('its merge tags are live, each escaped for where it stands', async () => {
    const { html: shown, text } = await html(
      `<a href='{{ shop.url & "/x?a=1&b=2" }}' title='{{ "<" & person.first_name }}'>For {{ person.first_name & "<b>" }}</a><a href="{{ shop.nothing }}">words</a><img src="{{ shop.nothing }}" alt="x"><br>Last`,
    );
    expect(shown).toContain(
      '<a href="https://s.example/x?a=1&amp;b=2" title="&lt;Maud" target="_blank">For Maud&lt;b&gt;</a>words<br>Last',
    );
    expect(text).toBe('For Maud<b>words\nLast\n');
  });
  test('nothing that stands in it runs', async () => {
    for (const attack of [
      '<a href="java\tscript:x()">a</a>',
      '<a href="{{ \'javascript:1\' }}">a</a>',
      '<a href=\'{{ "javascript:" & "x()" }}\'>a</a>',
      '<img src=x onerror=x()>',
      '<div style="width:expression(x())">a</div>',
      '<svg onload=x()><a xlink:href="javascript:x()">a</a></svg>',
      '<p title="{{ person.first_name }}" onmouseover="{{ person.first_name }}">a</p>',
    ])
      expect((await html(attack)).html.split('</head>')[1]).not.toMatch(
        /javascript:|onerror|onload|onmouseover|expression|<svg/i,
      );
  });
});

describe('cards', () => {
  const garden = [
    { name: 'Pot', price: 8, was_price: 10, stock: 2, currency: 'GBP', in_stock: true },
    { name: 'Pan', price: 5, stock: 40, currency: 'GBP', in_stock: true },
  ];
  const shop = { ...record, catalog: { garden } };
  const cards = (more: object = {}) =>
    made('cards', { items: { list: 'catalog.garden', as: 'p' }, ...more });
  const price = (saving: string) => ({
    show: 'price',
    price: 'p.price',
    was: 'p.was_price',
    saving,
  });

  test('the saving beside the price before, as money or in percent, where there is one', async () => {
    const money = await mail(cards({ fields: [price('money')] }), shop);
    expect(money.html).toContain('−£2.00');
    const percent = await mail(cards({ fields: [price('percent')] }), shop);
    expect(percent.html).toContain('−20%');
    expect(percent.html.match(/−/g)).toHaveLength(1);
    expect((await mail(cards({ fields: [price('none')] }), shop)).html).not.toContain('−');
  });

  test('a badge shows for those for whom its condition holds', async () => {
    const badge = {
      show: 'words',
      text: 'Last {{ p.stock }}',
      weight: 'strong',
      when: 'p.stock < 5',
    };
    const { html, text } = await mail(cards({ fields: [badge] }), shop);
    expect(html.match(/Last/g)).toHaveLength(1);
    expect(text).toContain('Last 2');
    expect(text).not.toContain('Last 40');
  });

  test('what is said when there is none', async () => {
    const none = cards({
      empty: 'Sold out.',
      items: { list: 'catalog.garden', as: 'p', where: 'p.price > 99' },
    });
    const { html, text } = await mail(none, shop);
    expect(text).toBe('Sold out.\n');
    expect(html).toContain('Sold out.');
    expect((await mail(cards({ empty: 'Sold out.' }), shop)).html).not.toContain('Sold out.');
  });

  test('one product is changed for this mail alone, in HTML and text', async () => {
    const skus = garden.map((product, i) => ({
      ...product,
      sku: `P-${i}`,
      url: 'https://s.example/p',
    }));
    const block = cards({
      fields: [
        { show: 'words', text: '{{ p.name }}', weight: 'strong', href: '{{ p.url }}' },
        price('money'),
        { show: 'button', label: 'View', href: '{{ p.url }}' },
      ],
      changes: [
        { sku: 'P-1', words: 'Pan of {{ p.name }}', price: 'Only today', button: 'Run' },
        { sku: 'P-0', href: 'https://s.example/sale' },
        { sku: '', words: 'Nobody' },
        { sku: 'gone', words: 'Nobody' },
      ],
    });
    const { html, text } = await mail(block, { ...record, catalog: { garden: skus } });
    expect(text).toBe(
      '- Pot\n  £8.00\n  View: https://s.example/sale\n- Pan of Pan\n  Only today\n  Run: https://s.example/p\n',
    );
    expect(html.match(/s\.example\/sale/g)).toHaveLength(2);
    expect(html).not.toContain('Nobody');
    expect(BLOCKS.cards.label(block as never)).toBe('Cards of catalog garden, 4 changed');
  });

  test('one or two of them side by side on a phone', async () => {
    const { html } = await mail(cards({ columns: 4, on_phone: 1 }), shop);
    expect(html).toContain('class="carafe-card-4 carafe-phone-1"');
    expect(html).toContain('.carafe-phone-1{width:100% !important}');
  });
});

test('lines show the properties that are named, long ones cut, blank ones left out', async () => {
  const properties = [
    { name: 'Engraved label', value: 'For the auriculas by the gate' },
    { name: 'Gift note', value: 'Happy birthday' },
    { name: 'Delivery week', value: '' },
  ];
  const order = { lines: [{ name: 'Pot', quantity: 1, total: 3, currency: 'GBP', properties }] };
  const lines = (more: object) =>
    made('lines', { items: { list: 'order.lines', as: 'line' }, properties: true, ...more });
  const all = await mail(lines({}), { ...record, order });
  expect(all.text).toContain('Engraved label: For the auriculas by the gate');
  expect(all.text).toContain('Gift note');
  expect(all.text).not.toContain('Delivery week');
  const some = await mail(
    lines({ property_names: ' engraved label, Delivery week,', property_length: 12 }),
    {
      ...record,
      order,
    },
  );
  expect(some.text).toContain('Engraved label: For the…');
  expect(some.html).not.toContain('Gift note');
});

const LIBRARY = '{{ shop.pictures }}/library/p1/1200x800';
const hosted = { ...record, shop: { ...record.shop, pictures: 'https://p.example' } };

test('posts show all that a post says, or its summary where it says no more', async () => {
  const feeds = {
    journal: {
      posts: [
        { title: 'A', content: '<p>All of <b>it</b>.</p><script>x</script>', summary: 'Some.' },
        { title: 'B', summary: 'Only this.' },
      ],
    },
  };
  const parts = [{ show: 'title' }, { show: 'whole' }];
  const { html, text } = await mail(made('posts', { parts }), { ...record, feeds });
  expect(text).toContain('All of it.');
  expect(text).toContain('Only this.');
  expect(html).toContain('All of it.');
  expect(html).not.toContain('Some.');
});

describe('links', () => {
  const places = [
    { show: 'shop', href: '{{ shop.url }}', label: 'The shop of {{ shop.name }}' },
    { show: 'journal', href: '', label: 'Journal' },
    { show: 'mail', href: 'mailto:hello@s.example', label: 'Write to us' },
  ];

  test('are icons with alt text; a place without an address is left out', async () => {
    const { html, text } = await mail(made('links', { places }), hosted);
    expect(html).toContain('src="https://p.example/icons/round/1f5f5b/shop.png"');
    expect(html).toContain('alt="The shop of Seed House"');
    expect(html).not.toContain('journal.png');
    expect(text).toBe(
      'The shop of Seed House: https://s.example\nWrite to us: mailto:hello@s.example\n',
    );
  });

  test('have one colour where one is chosen, and a shape and size', async () => {
    const looks = { places, colour: '#AA0000', shape: 'plain', size: 20 };
    const { html } = await mail(made('links', looks), hosted);
    expect(html).toContain('/icons/plain/aa0000/mail.png');
    expect(html).toContain('width="20" height="20"');
  });
});

describe('a video', () => {
  test('is its still with a play mark, that leads to it', async () => {
    const block = made('video', { href: 'https://v.example/1', src: LIBRARY, label: 'Watch it' });
    const { html, text } = await mail(block, hosted);
    expect(html).toMatch(
      /<a href="https:\/\/v.example\/1"[^>]*><img src="[^"]*\/p1\/\d+x\d+-play"/,
    );
    expect(html).toMatch(/\d+x\d+-play 2x/);
    expect(text).toBe('Watch it: https://v.example/1\n');
  });

  test('whose still is another address stands without a mark, and its words lead there', async () => {
    const block = made('video', {
      href: 'https://v.example/1',
      src: 'https://s.example/still.png',
    });
    const { html } = await mail(block, hosted);
    expect(html).toContain('src="https://s.example/still.png"');
    expect(html).toContain('Watch the video</a>');
    const nowhere = await mail({ ...block, href: '' } as Block, hosted);
    expect(nowhere.html).not.toContain('Watch the video</a>');
    expect(nowhere.text).toBe('\n');
  });
});

describe('cards', () => {
  const products = ['a', 'b', 'c'].map((sku, i) => ({
    ...{ sku, name: `Product ${sku}`, price: 10 * (i + 1), url: `https://s.example/${sku}` },
    ...{ image: `https://s.example/${sku}.png`, in_stock: true },
  }));
  const of = { ...hosted, catalog: { garden: products } };
  const count = (text: string, part: string) => text.split(part).length - 1;

  test('have their picture over or beside their words, or none', async () => {
    const over = await mail(made('cards'), of);
    const beside = await mail(made('cards', { arrangement: 'beside' }), of);
    const words = await mail(made('cards', { arrangement: 'words' }), of);
    expect(count(over.html, '<img')).toBe(3);
    expect(count(beside.html, '<img')).toBe(3);
    expect(count(words.html, '<img')).toBe(0);
    expect(beside.html).toMatch(
      /<td valign="top" width="40%" style="width:40%;padding-right:12px">/,
    );
    for (const { html } of [over, beside, words]) expect(html).toContain('Product c');
  });

  test('can begin with a large one', async () => {
    const { html } = await mail(made('cards', { arrangement: 'large_first' }), of);
    const kinds = [...html.matchAll(/<div class="(carafe-card-\d)/g)].map(([, kind]) => kind);
    expect(kinds).toEqual(['carafe-card-1', 'carafe-card-2', 'carafe-card-2']);
  });

  test('bring their pictures to one shape, cut long words, and add tax', async () => {
    const block = made('cards') as Block & { fields: object[] };
    const [picture = {}, words = {}, price = {}] = block.fields;
    const fields = [
      { ...picture, ratio: '4:3', fit: 'whole' },
      { ...words, lines: 2 },
      { ...price, tax: 20 },
    ];
    const { html, text } = await mail({ ...block, fields } as never, of);
    expect(count(html, 'aspect-ratio:1.3333;object-fit:contain')).toBe(3);
    expect(count(html, '-webkit-line-clamp:2')).toBe(3);
    expect(text).toContain('£12.00');
    expect(text).toContain('£36.00');
  });
});

test('a post’s picture that leads somewhere is called by its post', async () => {
  const { html } = await mail(made('posts', { parts: [{ show: 'summary', characters: 40 }] }));
  expect(html).toMatch(/<a [^>]*href="https:\/\/j\.example\/leeks"[^>]*><img [^>]*alt="Leeks"/);
});

test('a column without a heading has no heading cell, and the first begins where its rows do', async () => {
  const columns = [
    { show: 'item', heading: 'Item' },
    { show: 'picture', heading: '' },
  ];
  const { html } = await mail(made('lines', { columns }));
  expect(html).not.toMatch(/<th[^>]*><\/th>/);
  expect(html.match(/<th[ >]/g)).toHaveLength(1);
  expect(html.match(/padding-left:(\d+)px;border-bottom/g)?.[0]).toContain('padding-left:0px');
  expect(html).toMatch(/<td[^>]*padding-left:0px;[^>]*word-break/);
});

test('buttons in cards and coupons are tables whose cell has the colour', async () => {
  const coupon = await mail(made('coupon', { label: 'Use it', href: 'https://s.example/c' }));
  const cards = await mail(
    made('cards', {
      items: { list: 'cart.lines', as: 'p' },
      fields: [{ show: 'button', label: 'View', href: 'https://s.example/p' }],
    }),
  );
  for (const { html } of [coupon, cards])
    expect(html).toMatch(
      /<table role="presentation"[^>]*><tr><td align="center" bgcolor="#\w{6}"[^>]*><a href="https:\/\/s\.example\/[cp]"/,
    );
});

test('a picture that is brought to a shape says how high it is', async () => {
  const { html } = await mail(
    made('picture', { src: 'https://s.example/a.png', alt: 'A', width: 300, ratio: '3:2' }),
  );
  expect(html).toMatch(/height="200" alt="A" width="300"/);
});
