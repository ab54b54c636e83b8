import { mailOf } from '../build/testing';
import { blankTemplate, composer, countedIds, type Block } from '../template';
import { BLOCKS } from '.';
import { NO_SOURCES } from './define';

const c = composer(countedIds());
const record = {
  shop: { name: 'House', url: 'https://house.example', currency: 'GBP' },
  person: { first_name: 'Ada' },
  cart: { currency: 'GBP', total: 9, lines: [{ sku: 'S-1', price: 4.5, quantity: 2 }] },
  list: [
    { name: 'A', price: 5, was: 8, url: 'https://house.example/a' },
    { name: 'B', price: 5, was: 5 },
  ],
};
async function mail(...blocks: Block[]) {
  const template = blankTemplate('T', 's', [c.section('S', blocks)]);
  const { mail: made } = await mailOf(template, record);
  // Lines are broken before attributes, which means nothing.
  return { ...made, html: made.html.replace(/\n(?=[a-z-]+=")/g, ' ') };
}

test('every kind has a name, a sentence and a block to begin with', () => {
  for (const [key, { kind, name, description, icon, make }] of Object.entries(BLOCKS)) {
    expect(kind).toBe(key);
    expect(name).toMatch(/^[A-Z]/);
    expect(icon).toMatch(/^M[-\d MhHvVlLaAzcC.]+/);
    expect(description).toMatch(/\.$/);
    expect(make('x', NO_SOURCES)).toMatchObject({ kind, id: 'x' });
  }
});

describe('text', () => {
  const rich = (content: object[]) => c.text({ type: 'doc', content } as never);

  test('keeps marks, lists and breaks in HTML, and says the same in plain text', async () => {
    const words = (text: string, ...marks: object[]) => ({ type: 'text', text, marks });
    const { html, text } = await mail(
      rich([
        {
          type: 'paragraph',
          content: [
            words('bold', { type: 'bold' }),
            { type: 'hardBreak' },
            words('both', { type: 'italic' }, { type: 'underline' }),
          ],
        },
        {
          type: 'bulletList',
          content: [
            { type: 'listItem', content: [{ type: 'paragraph', content: [words('one')] }] },
          ],
        },
        {
          type: 'orderedList',
          content: [
            { type: 'listItem', content: [{ type: 'paragraph', content: [words('first')] }] },
          ],
        },
      ]),
    );
    expect(html).toContain('<strong>bold</strong><br><u><em>both</em></u>');
    expect(html).toContain('<li>one</li>');
    expect(text).toBe('bold\nboth\n\n- one\n\n1. first\n');
  });

  test('lists stand in lists, in HTML and indented in plain text', async () => {
    const line = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
    const list = (type: string, ...items: object[][]) => ({
      type,
      content: items.map((content) => ({ type: 'listItem', content })),
    });
    const { html, text } = await mail(
      rich([
        list(
          'orderedList',
          [line('Sow'), line('thinly'), list('bulletList', [line('poppies')], [line('leeks')])],
          [line('Water')],
        ),
      ]),
    );
    expect(html.replace(/\n/g, ' ').replace(/ style="[^"]*"/g, '')).toContain(
      '<ol><li>Sow<br>thinly<ul><li>poppies</li><li>leeks</li></ul></li><li>Water</li></ol>',
    );
    expect(text).toBe('1. Sow\n   thinly\n   - poppies\n   - leeks\n2. Water\n');
  });

  test('a link without an address that may stand in a mail leaves its words', async () => {
    const link = (href: string) =>
      rich([
        {
          type: 'paragraph',
          content: [{ type: 'text', text: 'go', marks: [{ type: 'link', attrs: { href } }] }],
        },
      ]);
    expect((await mail(link('{{ shop.url }}/x'))).html).toContain(
      '<a href="https://house.example/x"',
    );
    for (const href of ['{{ missing }}', 'javascript:1', ''])
      expect((await mail(link(href))).html).not.toContain('<a ');
  });

  test('takes its own size, colour and alignment', async () => {
    const { html } = await mail(
      c.text('x', { size: 21, colour: '#abcdef', align: 'right', padding: { top: 3, bottom: 5 } }),
    );
    for (const css of [
      'font-size:21px',
      'color:#abcdef',
      'text-align:right',
      'padding:3px 24px 5px',
    ])
      expect(html).toContain(css);
  });
});

test('a heading has its level', async () => {
  for (const level of [1, 2, 3] as const)
    expect((await mail(c.heading('Hi {{ person.first_name }}', { level }))).html).toMatch(
      new RegExp(`<h${level}[^>]*>Hi Ada</h${level}>`),
    );
});

describe('picture', () => {
  test('has its width, its words and its link', async () => {
    const { html, text } = await mail(
      c.block('picture', {
        src: 'https://x.example/a.png',
        alt: 'A "b" {{ person.first_name }}',
        href: '{{ shop.url }}',
        width: 90,
      }),
    );
    expect(html).toMatch(
      /<a href="https:\/\/house.example"[^>]*><img src="https:\/\/x.example\/a.png" alt="A &quot;b&quot; Ada" width="90"/,
    );
    expect(text.trim()).toBe('A "b" Ada');
  });

  test('is never wider than its column', async () => {
    expect(
      (await mail(c.block('picture', { src: 'https://x.example/a.png', alt: '', width: 1200 })))
        .html,
    ).toContain('width="552"');
  });

  test('without an address shows nothing at all', async () => {
    for (const src of ['', '{{ missing }}', 'data:image/png;base64,x'])
      expect((await mail(c.block('picture', { src, alt: 'x' }))).html).not.toContain('<img');
  });
});

test('a button says where it leads in plain text', async () => {
  const { html, text } = await mail(c.button('See {{ person.first_name }}', '{{ shop.url }}/a b'));
  expect(html).toContain('href="https://house.example/a%20b"');
  expect(text.trim()).toBe('See Ada: https://house.example/a%20b');
});

describe('cards', () => {
  const fields = [
    {
      show: 'words' as const,
      text: '{{ p.name }}',
      weight: 'strong' as const,
      href: '{{ p.url }}',
    },
    { show: 'price' as const, price: 'p.price', was: 'p.was' },
    { show: 'button' as const, label: 'See {{ p.name }}', href: '{{ p.url }}' },
  ];
  const block = (order = fields) =>
    c.block('cards', { items: { list: 'list', as: 'p' }, fields: order });

  test('strike the price before only where it was higher', async () => {
    const { html } = await mail(block());
    expect(html.match(/<s [^>]*>£8.00<\/s>/g)).toHaveLength(1);
    expect(html).not.toMatch(/<s [^>]*>£5.00/);
  });

  test('show their fields in the order that was chosen', async () => {
    const place = (html: string, what: string) => html.indexOf(what);
    const first = (await mail(block())).html;
    const turned = (await mail(block([...fields].reverse() as typeof fields))).html;
    expect(place(first, '>A<')).toBeLessThan(place(first, 'See A'));
    expect(place(turned, 'See A')).toBeLessThan(place(turned, '>A<'));
  });

  test('say the same in plain text', async () => {
    expect((await mail(block())).text).toContain('- A\n  £5.00\n  See A: https://house.example/a');
  });
});

test('lines fall back to the SKU and reckon a total that is not given', async () => {
  const { html, text } = await mail(c.block('lines'));
  expect(text).toContain('2 × S-1 — £9.00');
  expect(html).toContain('<th scope="col"');
});

test('divider and spacer are there', async () => {
  const { html } = await mail(c.block('divider'), c.block('spacer', { height: 33 }));
  expect(html).toContain('border-top:solid 1px');
  expect(html).toContain('height:33px');
});
