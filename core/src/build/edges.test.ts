import { Parser } from 'htmlparser2';
import { blankTemplate, composer, countedIds, type Block, type Section } from '../template';
import { directionOf } from './direction';
import { mailOf } from './testing';

const c = composer(countedIds());
const mail = (...sections: Section[]) => blankTemplate('Test', 'shop', sections);
const blocks = (...all: Block[]) => mail(c.section('One', all));

/** The HTML as a program without conditional comments reads it, and as Word's engine does. */
const readings = (html: string) => ({
  elsewhere: html.replace(/<!--[\s\S]*?-->/g, ''),
  word: html
    .replace(/<!--\[if[^\]]*mso[^\]]*\]>([\s\S]*?)<!\[endif\]-->/g, '$1')
    .replace(/<!--\[if !mso[^\]]*\]><!-->[\s\S]*?<!--<!\[endif\]-->/g, ''),
});

/** Cells that stand in no row, rows that stand in no table, and what else stands in a row. */
function misplaced(html: string): string[] {
  const open: string[] = [];
  const wrong: string[] = [];
  const parser = new Parser({
    onopentag(name) {
      const parent = open.findLast((one) => /^(?:table|tbody|tr|td)$/.test(one));
      if (name === 'td' && parent !== 'tr') wrong.push(`td in ${parent ?? 'nothing'}`);
      if (name === 'tr' && parent !== 'table' && parent !== 'tbody')
        wrong.push(`tr in ${parent ?? 'nothing'}`);
      if (name !== 'td' && name !== 'th' && open.at(-1) === 'tr') wrong.push(`${name} in tr`);
      open.push(name);
    },
    onclosetag(name) {
      const at = open.lastIndexOf(name);
      if (at >= 0) open.length = at;
    },
  });
  parser.end(html);
  return wrong;
}

describe('addresses that may not stand in a mail', () => {
  const everything = blocks(
    c.button('Buy {{ name }}', '{{ url }}'),
    c.block('picture', { src: '{{ url }}', alt: 'A picture', href: '{{ url }}' }),
    c.text({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            {
              type: 'text',
              text: 'our words',
              marks: [{ type: 'link', attrs: { href: '{{ url }}' } }],
            },
          ],
        },
      ],
    }),
    c.block('cards', {
      items: { list: 'list', as: 'p' },
      fields: [
        { show: 'picture', src: '{{ p.url }}', alt: 'A card', href: '{{ p.url }}' },
        { show: 'words', text: 'Card words', weight: 'plain', href: '{{ p.url }}' },
        { show: 'button', label: 'Card button', href: '{{ p.url }}' },
      ],
    }),
  );
  test.each(['/p/1', 'www.x.example', '//cdn.example/x.png', 'javascript:1', '', ' ', 'data:,x'])(
    '“%s” gives words without a link, no picture, no button',
    async (url) => {
      const { mail: made } = await mailOf(everything, { url, name: 'it', list: [{ url }] });
      const { elsewhere, word } = readings(made.html);
      for (const html of [elsewhere, word]) {
        expect(html).not.toMatch(/(?:href|src)=["'](?!https?:|mailto:|tel:)/);
        expect(html).not.toContain('Buy it');
        expect(html).not.toContain('Card button');
        expect(html).toContain('our words');
        expect(html).toContain('Card words');
      }
      expect(made.text).toContain('our words');
      expect(made.text).not.toMatch(/Buy it|A picture|Card button|\(\s*\)/);
    },
  );

  test('are told where they are the same for all, and leave nothing either', async () => {
    const { findings, mail: made } = await mailOf(blocks(c.button('Buy', '/p/1')), {});
    expect(findings.map((f) => f.message)).toEqual([
      'An address starts with https, http, mailto or tel; “/p/1” does not.',
    ]);
    expect(made.html).not.toContain('Buy');
  });

  test('a product without a picture keeps its place in the grid, unless that is not wanted', async () => {
    const record = { list: [{ image: 'https://x.example/1.png' }, { image: '' }] };
    const cards = (blank?: 'none') =>
      blocks(
        c.block('cards', {
          items: { list: 'list', as: 'p' },
          fields: [{ show: 'picture', src: '{{ p.image }}', alt: '', ...(blank && { blank }) }],
        }),
      );
    const spaces = async (blank?: 'none') =>
      (await mailOf(cards(blank), record)).mail.html.match(/padding-top:100%/g)?.length ?? 0;
    expect(await spaces()).toBe(1);
    expect(await spaces('none')).toBe(0);
  });
});

describe('tables are sound in every reading', () => {
  const list = (n: number) => Array.from({ length: n }, (_, i) => ({ name: `P${i}`, price: 1 }));
  test.each([0, 1, 2, 3, 5])('cards and looped columns of %d members', async (n) => {
    const looped = c.columns('Columns', [[c.text('Column {{ p.name }}')]]);
    Object.assign(looped.columns[0] ?? {}, { loop: { list: 'list', as: 'p' }, width: 50 });
    const hidden = c.columns('Hidden', [[c.text('one')], [c.text('two')]]);
    Object.assign(hidden.columns[0] ?? {}, { when: 'false' });
    const template = mail(
      c.section('Cards', [
        c.block('cards', { items: { list: 'list', as: 'product' }, columns: 2 }),
      ]),
      looped,
      hidden,
      c.section('Lines', [
        c.block('lines', { items: { list: 'list', as: 'line' } }),
        c.button('Go', '{{ url }}'),
        c.block('totals', {}),
      ]),
    );
    const { mail: made } = await mailOf(template, { list: list(n), url: 'https://x.example' });
    const { elsewhere, word } = readings(made.html);
    expect(misplaced(elsewhere)).toEqual([]);
    expect(misplaced(word)).toEqual([]);
    // Two columns of half the width stand in a row; the next one begins another.
    const between = word.slice(word.indexOf('Column P0'), word.indexOf('Column P2'));
    if (n > 2) expect(between).toMatch(/<\/tr>\s*<tr>/);
  });

  test('a column that a condition leaves alone stands where lines begin', async () => {
    const section = c.columns('Two', [[c.text('one')], [c.text('two')]]);
    Object.assign(section.columns[0] ?? {}, { when: 'false' });
    const { mail: made } = await mailOf(mail(section), {});
    const cell = /<td[^>]*style="([^"]*)"[^>]*>\s*(?:<!--[^>]*-->\s*)*<div[^>]*mj-column/.exec(
      made.html.replace(/<!--[\s\S]*?-->/g, ''),
    );
    expect(cell?.[1]).toContain('text-align:left');
  });
});

describe('mails from right to left', () => {
  test.each([
    ['ar', 'rtl'],
    ['he-IL', 'rtl'],
    ['fa-IR', 'rtl'],
    ['ur', 'rtl'],
    ['en-GB', 'ltr'],
    ['az-Latn', 'ltr'],
    ['pa-Arab', 'rtl'],
    ['no language', 'ltr'],
  ])('%s is written %s', (language, direction) => expect(directionOf(language)).toBe(direction));

  test('say so, and their cells begin on the right', async () => {
    const template = {
      ...blocks(
        c.heading('مرحبا'),
        c.text('نص'),
        c.block('totals', {}),
        c.button('اشتر', 'https://x.example'),
      ),
      language: 'ar',
    };
    const { mail: made } = await mailOf(template, { cart: { total: 3, currency: 'EUR' } });
    expect(made.html).toMatch(
      /<html[^>]*lang="ar"[^>]*dir="rtl"|<html[^>]*dir="rtl"[^>]*lang="ar"/,
    );
    expect(made.html).not.toContain('direction:ltr');
    expect(made.html).toMatch(/<td align="left"\s+style="padding:3px 0;white-space/);
    expect(made.html).toMatch(/align="right"[^>]*style="[^"]*"[^>]*>\s*<div[^>]*text-align:right/);
  });
});

describe('values in a mail from right to left', () => {
  const written = async (language: string) => {
    const template = { ...blocks(c.text('{{ size }} {{ name }} {{ shop }}')), language };
    const { mail: made } = await mailOf(template, { size: '26 cm', name: 'مود', shop: 'A<b>' });
    return made;
  };
  test('keep their own order where they are of another direction', async () => {
    const { html, text } = await written('ar');
    expect(html).toContain('<span dir="auto">26 cm</span> مود <span dir="auto">A&lt;b&gt;</span>');
    expect(text).toContain('26 cm مود');
  });
  test('from left to right, nothing is put round them', async () => {
    expect((await written('de')).html).toContain('26 cm مود');
  });
});

describe('what a mail is as such', () => {
  test('spaces at the ends of values stay between them, and go at the ends of the header', async () => {
    const template = blocks(c.text('x'));
    Object.assign(template.envelope, {
      subject: '{{ " " & first & " " }}{{ last }} ',
      preview_text: '{{ first & "  " }} {{ last }}',
    });
    const { mail: made } = await mailOf(template, { first: 'Maud', last: 'Fenwick' });
    expect([made.subject, made.preview_text]).toEqual(['Maud Fenwick', 'Maud Fenwick']);
  });

  test('the preview text is kept apart from the body; without one, the body is shown', async () => {
    const template = blocks(c.text('x'));
    Object.assign(template.envelope, { preview_text: 'Look inside' });
    expect((await mailOf(template, {})).mail.html).toContain('Look inside&#847;&zwnj;&nbsp;');
    Object.assign(template.envelope, { preview_text: '' });
    expect((await mailOf(template, {})).mail.html).not.toContain('&zwnj;');
  });

  test('a column can have a background of its own', async () => {
    const template = blocks(c.text('x'));
    Object.assign(template.sections[0]?.columns[0] ?? {}, { background: '#abcdef' });
    expect((await mailOf(template, {})).mail.html).toContain('background-color:#abcdef');
  });

  test('it does not say that it is made for the dark, and its lines are short', async () => {
    const template = blocks(
      ...Array.from({ length: 30 }, () =>
        c.block('cards', { items: { list: 'list', as: 'p' }, columns: 3 }),
      ),
    );
    const list = [{ name: 'A', url: 'https://x.example/a', image: 'https://x.example/a.png' }];
    const { mail: made } = await mailOf(template, { list });
    expect(made.html).not.toContain('color-scheme');
    expect(Math.max(...made.html.split('\n').map((line) => line.length))).toBeLessThan(998);
  });

  test('a mail that can be unsubscribed from says so to mail programs, with one click', async () => {
    const leave = blocks(c.text('x'), c.button('Unsubscribe', '{{ links.unsubscribe }}'));
    const headersFor = async (unsubscribe: string, template = leave) =>
      (await mailOf(template, { links: { unsubscribe } })).mail.headers;
    expect(await headersFor('https://s.example/mail/unsubscribe?for=t')).toEqual({
      'List-Unsubscribe': '<https://s.example/mail/unsubscribe?for=t>',
      'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    });
    for (const odd of [
      'http://s.example/x',
      'javascript:1',
      '',
      'https://s.example/>, <mailto:x@y',
    ])
      expect(await headersFor(odd)).toEqual({});
    const order = blocks(c.text('Thank you'));
    expect(await headersFor('https://s.example/mail/unsubscribe?for=t', order)).toEqual({});
  });

  test('totals whose amount is no amount leave their row out', async () => {
    const totals = blocks(
      c.block('totals', {
        rows: [
          { label: 'Words', amount: '"a lot"' },
          { label: 'Nothing', amount: 'cart.none' },
          { label: 'Nought', amount: 'cart.nought' },
        ],
      }),
    );
    const { mail: made } = await mailOf(totals, { cart: { nought: 0, currency: 'EUR' } });
    expect(made.text.trim()).toMatch(/^Nought: €0.00$/);
    expect(made.html).not.toMatch(/Words|Nothing/);
  });
});

describe('bounds', () => {
  test('past the bound of the trail, a hidden node is never told as shown', async () => {
    const many = Array.from({ length: 300 }, (_, i) => c.text(`{{ a }} {{ b }} ${i}`));
    const template = blocks(...many, c.text('late', { id: 'late', when: 'a is "no"' }));
    const { trail = [] } = await mailOf(template, { a: 'x', b: 'y' }, { trail: true });
    expect(trail.length).toBeLessThan(420);
    expect(trail.find((entry) => entry.node === 'late')).toMatchObject({
      is: 'condition',
      held: false,
    });
  });

  test('a mail is bounded by what fills it, too', async () => {
    const long = 'x'.repeat(90_000);
    const template = blocks(c.text('{{ it }}', { loop: { list: 'list', as: 'it' } }));
    const list = Array.from({ length: 400 }, () => long);
    const { mail: made } = await mailOf(template, { list });
    expect(made.html.length).toBeLessThan(4_100_000);
    const flat = blocks(...Array.from({ length: 60 }, () => c.text('{{ long }}')));
    expect((await mailOf(flat, { long })).mail.html.length).toBeLessThan(4_100_000);
  });
});
