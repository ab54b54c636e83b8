import {
  composer,
  countedIds,
  blankTemplate,
  type Block,
  type Section,
  type Template,
} from '../template';
import { contextless, mailOf, type Given } from './testing';

const c = composer(countedIds());

function template(...blocks: Block[]): Template {
  return blankTemplate('Test', 'shop', [c.section('One', blocks)]);
}
const record: Given = {
  shop: { name: 'House', currency: 'GBP', url: 'https://house.example' },
  person: { first_name: 'Ada' },
  cart: {
    currency: 'GBP',
    total: 30,
    lines: [
      {
        name: 'Pot',
        price: 10,
        quantity: 2,
        total: 20,
        properties: [
          { name: 'Label', value: 'Mum' },
          { name: 'Note', value: ' ' },
        ],
      },
      { name: 'Seed & co', price: 5, quantity: 2, properties: [] },
    ],
  },
  products: Array.from({ length: 7 }, (_, i) => ({
    name: `P${i}`,
    price: i,
    image: i === 2 ? '' : `https://x.example/${i}.png`,
    url: `https://x.example/${i}`,
  })),
};

describe('a loop', () => {
  const loop = { list: 'cart.lines', as: 'line' };

  test('repeats a block for each member, seen by name and bare', async () => {
    const { mail } = await mailOf(
      template(c.text('«{{ line.name }}|{{ quantity }}»', { loop })),
      record,
    );
    expect(mail.html.match(/«[^»]*»/g)).toEqual(['«Pot|2»', '«Seed &amp; co|2»']);
    expect(mail.text).toContain('«Seed & co|2»');
  });

  test('filters, orders and cuts short, with the member’s name in scope', async () => {
    const all = template(
      c.text('<{{ p.name }}>', {
        loop: {
          list: 'products',
          as: 'p',
          where: 'p.price > 1 and price < 6',
          sort: { by: 'p.price', direction: 'descending' },
          at_most: 2,
        },
      }),
    );
    expect((await mailOf(all, record)).mail.text).toMatch(/<P5>\s+<P4>\s*$/);
  });

  test('nests: order, lines, properties; blank properties are left out', async () => {
    const lines = c.block('lines', { properties: true });
    const { mail } = await mailOf(template(lines), record);
    expect(mail.text).toContain('2 × Pot — £20.00\n    Label: Mum\n');
    expect(mail.html).not.toContain('Note:');
    // A line without a total of its own is reckoned.
    expect(mail.text).toContain('2 × Seed & co — £10.00');
  });

  test('repeats whole sections and columns too', async () => {
    const section = c.section('Each', [c.heading('H {{ line.name }}')], { loop });
    const column = c.columns('Cols', [[c.heading('C {{ line.name }}')]]);
    const [only] = column.columns;
    const looped: Section = { ...column, columns: only ? [{ ...only, loop }] : [] };
    const { mail } = await mailOf(blankTemplate('T', 's', [section, looped]), record);
    expect(mail.text.match(/[HC] (?:Pot|Seed)/g)).toEqual(['H Pot', 'H Seed', 'C Pot', 'C Seed']);
    expect(mail.html.match(/<tbody>/g)?.length).toBe(mail.html.match(/<\/tbody>/g)?.length);
  });

  test('a record counts as a list of one, a missing list as none', async () => {
    const one = template(
      c.text('<{{ c.total }}>', { loop: { list: 'cart', as: 'c' } }),
      c.text('none', { loop: { list: 'nothing', as: 'x' } }),
    );
    expect((await mailOf(one, record)).mail.text.trim()).toBe('<30>');
  });
});

describe('a condition', () => {
  const block = c.text('over', {
    when: 'cart.total > 50',
    else: c.text('under', { when: 'cart.total > 10', else: c.text('tiny') }),
  });
  test.each([
    [60, 'over'],
    [30, 'under'],
    [5, 'tiny'],
  ])('at %d shows %s', async (total, shown) => {
    const { mail } = await mailOf(template(block), { ...record, cart: { total } });
    expect(mail.text.trim()).toBe(shown);
    expect(['over', 'under', 'tiny'].filter((word) => mail.html.includes(`>${word}<`))).toEqual([
      shown,
    ]);
  });

  test('is asked once, before the loop of its node', async () => {
    const both = c.text('x', {
      when: 'false',
      loop: { list: 'cart.lines', as: 'line' },
      else: c.text('instead'),
    });
    expect((await mailOf(template(both), record)).mail.text.trim()).toBe('instead');
  });
});

describe('cards', () => {
  test.each([1, 2, 3, 4])('in %d columns keep their grid for any count', async (columns) => {
    for (const count of [0, 1, 2, 3, 4, 5, 7]) {
      const cards = c.block('cards', {
        columns,
        items: {
          list: 'products',
          as: 'product',
          at_most: Math.max(1, count),
          ...(count === 0 && { where: 'false' }),
        },
      });
      const { html } = (await mailOf(template(cards), record)).mail;
      const cells = html.match(/<!--\[if mso \| IE\]><td valign="top"/g)?.length ?? 0;
      const blanks = html.match(/&nbsp;<\/td><!\[endif\]-->/g)?.length ?? 0;
      const rows = html.match(/<div style="font-size:0;text-align:left">/g)?.length ?? 0;
      expect([cells, (cells + blanks) % columns, rows]).toEqual([
        count,
        0,
        Math.ceil(count / columns),
      ]);
      expect(html.split('<div').length).toBe(html.split('</div>').length);
    }
  });

  test('leave no empty frame where a product has no picture', async () => {
    const { html } = (
      await mailOf(
        template(c.block('cards', { items: { list: 'products', as: 'product' } })),
        record,
      )
    ).mail;
    expect(html.match(/<img /g)?.length).toBe(6);
    expect(html).not.toContain('src=""');
  });
});

describe('totals', () => {
  test('leave out rows without an amount or whose condition does not hold', async () => {
    const rows = [
      { label: 'Goods', amount: 'cart.total' },
      { label: 'Discount', amount: 'cart.discount' },
      { label: 'Free', amount: '1', when: 'cart.total > 99' },
    ];
    const { mail } = await mailOf(template(c.block('totals', { rows })), record);
    expect(mail.text.trim()).toBe('Goods: £30.00');
  });
});

describe('what a designer writes wrongly', () => {
  test('is found with its place, and the rest of the mail still comes', async () => {
    const wrong = template(
      c.heading('Hello {{ person.first_name'),
      c.text('fine', { when: 'cart.total >' }),
      c.button('Go', 'javascript:alert(1)'),
      c.text('after'),
    );
    const { findings, mail } = await mailOf(wrong, record);
    expect(findings.map((f) => [f.path, f.column])).toEqual([
      ['text', 7],
      ['when', 13],
      ['href', 1],
    ]);
    expect(mail.text).toContain('after');
    expect(mail.text).not.toContain('fine');
    expect(mail.html).not.toContain('javascript');
  });
});

describe('the HTML', () => {
  test('is whole: every table, row and cell is closed, for several recipients', async () => {
    const all = template(
      c.block('lines', { properties: true }),
      c.block('totals'),
      c.block('cards', { items: { list: 'products', as: 'p' } }),
      c.text('{{ person.first_name }}'),
    );
    for (const given of [record, contextless]) {
      const { html } = (await mailOf(all, given)).mail;
      for (const tag of ['table', 'tr', 'td', 'tbody', 'div', 'a', 'span'])
        expect([tag, html.match(new RegExp(`<${tag}[\\s>]`, 'g'))?.length]).toEqual([
          tag,
          html.match(new RegExp(`</${tag}>`, 'g'))?.length,
        ]);
      expect(html).not.toMatch(/[\uE000-\uE003]/);
    }
  });

  test('has fallbacks for Outlook and a language', async () => {
    const { html } = (await mailOf(template(c.text('x')), record)).mail;
    expect(html).toContain('<!--[if mso | IE]>');
    expect(html).toContain('lang="en"');
  });
});
