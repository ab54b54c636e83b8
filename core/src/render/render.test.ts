import fc from 'fast-check';
import { mailOf } from '../build/testing';
import { templateSites } from '../site';
import { blankTemplate, composer, countedIds, type Block } from '../template';
import { escapeHeader, escapeHtml, safeAddress, Tally } from '.';

const c = composer(countedIds());
const template = (...blocks: Block[]) => blankTemplate('Test', 'shop', [c.section('One', blocks)]);

const HOSTILE = '</script><img src=x onerror=alert(1)>"\'&{{ 1 + 1 }}';

describe('escaping by place', () => {
  const everywhere = template(
    c.heading('{{ v }}'),
    c.text('{{ v }}'),
    c.block('picture', { src: '{{ pic }}', alt: '{{ v }}', href: '{{ link }}' }),
    c.button('{{ v }}', '{{ link }}'),
    c.block('cards', { items: { list: 'list', as: 'product' } }),
    c.block('lines', { items: { list: 'list', as: 'line' }, properties: true }),
  );
  everywhere.envelope = {
    ...everywhere.envelope,
    subject: '{{ v }}',
    preview_text: '{{ v }}',
    from_name: '{{ v }}',
  };

  test('a value with HTML in every field runs nothing and opens no tag', async () => {
    const hostile = {
      name: HOSTILE,
      url: 'javascript:alert(1)',
      image: `https://x.example/"onerror=alert(1)`,
      variant: HOSTILE,
      price: 1,
      quantity: 1,
      properties: [{ name: HOSTILE, value: HOSTILE }],
    };
    const { mail } = await mailOf(everywhere, {
      v: HOSTILE,
      link: 'JaVaScRiPt:alert(1)',
      pic: 'data:text/html,x',
      list: [hostile],
    });
    expect(mail.html).not.toMatch(/<img src=x|<script|javascript:|data:text/i);
    expect(mail.html).not.toContain('"onerror');
    expect(mail.html).toContain('&lt;/script&gt;&lt;img');
    // What a value holds is never read as a formula again.
    expect(mail.html).toContain('{{ 1 + 1 }}');
    expect(mail.text).toContain(HOSTILE);
  });

  test('a header stays one line', async () => {
    const { mail } = await mailOf(everywhere, { v: 'a\r\nBcc: b@c.example\u2028x' });
    expect(mail.subject).toBe('a Bcc: b@c.example x');
    expect(mail.from).not.toMatch(/[\r\n]/);
  });

  test('escaped text never holds what could end an attribute or open a tag', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(escapeHtml(text)).not.toMatch(/[<>"']/);

        expect(escapeHeader(text)).not.toMatch(/[\r\n\u0000]/);
      }),
    );
  });

  test.each([
    ['https://a.example/x y', 'link', 'https://a.example/x%20y'],
    ['mailto:a@b.example', 'link', 'mailto:a@b.example'],
    ['tel:+441', 'link', 'tel:+441'],
    ['mailto:a@b.example', 'picture', null],
    ['java\nscript:alert(1)', 'link', null],
    [' javascript:alert(1)', 'link', null],
    ['//evil.example', 'link', null],
    ['vbscript:x', 'link', null],
    ['', 'link', null],
  ] as const)('%j as a %s', (address, scheme, safe) => {
    expect(safeAddress(address, scheme)).toBe(safe);
  });

  test('hostile keys reach no prototype', async () => {
    const record = JSON.parse(
      '{"__proto__":{"polluted":1},"constructor":{"prototype":{"polluted":1}},"v":"{{ constructor }}"}',
    ) as Record<string, unknown>;
    const { mail } = await mailOf(
      template(c.text('{{ __proto__.polluted }}|{{ toString }}|{{ v.constructor }}|{{ v }}')),
      record,
    );
    expect(mail.text.trim()).toBe('1|||{{ constructor }}');
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });
});

describe('the trail', () => {
  const told = template(
    c.text('shown', { when: 'total > 10 and name is filled' }),
    c.text('{{ title(name) otherwise "there" }}'),
    c.block('cards', {
      items: { list: 'list', as: 'p', where: 'p.ok', at_most: 1 },
      fields: [{ show: 'words', text: '{{ p.name }}', weight: 'plain' }],
    }),
  );
  const record = {
    total: 20,
    list: [
      { name: 'a', ok: true },
      { name: 'b', ok: false },
      { name: 'c', ok: true },
    ],
  };

  test('tells why each node showed, each list before and after, each value’s path', async () => {
    const { trail = [] } = await mailOf(told, record, { trail: true });
    const condition = trail.find((e) => e.is === 'condition');
    expect(condition).toMatchObject({ held: false, formula: 'total > 10 and name is filled' });
    expect(
      condition?.is === 'condition' && condition.why.parts.map((p) => `${p.source}: ${p.value}`),
    ).toEqual(['total > 10: yes', 'total: 20', 'name is filled: no', 'name: missing']);
    expect(trail.find((e) => e.is === 'loop')).toMatchObject({
      before: 3,
      kept: 2,
      shown: 1,
      members: [
        { name: 'a', shown: true },
        { name: 'b', shown: false },
        { name: 'c', shown: false },
      ],
    });
    expect(trail.find((e) => e.is === 'value' && e.path === 'text')).toMatchObject({
      text: 'there',
      fallback: true,
    });
  });

  test('and marks for a canvas change nothing in the mail', async () => {
    const plain = (await mailOf(told, record)).mail;
    expect((await mailOf(told, record, { trail: true })).mail).toEqual(plain);
    const canvas = (await mailOf(told, record, { canvas: true })).mail.html;
    expect(
      canvas.replace(
        /<!--\/?(?:node|field)[^>]*-->|<span data-value="\d+">|(?<=[^>])<\/span>/g,
        '',
      ),
    ).toBe(plain.html);
  });

  test('is not told when it is not asked for', async () => {
    expect((await mailOf(told, record)).trail).toBeUndefined();
  });
});

describe('the tally', () => {
  const blocks = template(
    c.text('x {{ name otherwise "there" }}', { when: 'total > 10' }),
    c.text('y', { loop: { list: 'list', as: 'l' } }),
  );
  const signature = async (record: Record<string, unknown>) => {
    const tally = new Tally();
    await mailOf(blocks, record, { tally });
    return tally.key();
  };

  test('is equal for equal outcomes and differs by condition, count and fallback', async () => {
    const base = { total: 20, name: 'A', list: [1, 2] };
    const first = await signature(base);
    expect(await signature({ ...base, name: 'B', total: 99 })).toBe(first);
    for (const other of [{ total: 5 }, { list: [1] }, { name: ' ' }])
      expect(await signature({ ...base, ...other })).not.toBe(first);
  });
});

test('what a tally counts changes nothing in the mail', async () => {
  const blocks = template(
    c.text('x {{ name otherwise "there" }} {{ town }}', { when: 'total > 10' }),
    c.button('Go', '{{ link }}'),
    c.text('{{ l }}', { loop: { list: 'list', as: 'l' } }),
  );
  for (const record of [
    { total: 20, name: 'A & B', list: [1, 2], link: 'https://q.example/?a=1&b=2' },
    { total: 1, town: '<b>', list: [], link: 'javascript:1' },
  ]) {
    const tally = new Tally();
    const counted = await mailOf(blocks, record, { tally });
    const dry = new Tally();
    expect((await mailOf(blocks, record, { tally: dry, dry: true })).size).toBeGreaterThan(1_000);
    expect(dry.key()).toBe(tally.key());
    expect(dry.decisions).toEqual(tally.decisions);
    expect(counted.mail).toEqual((await mailOf(blocks, record)).mail);
    expect(tally.bits.filter((bits) => bits > 0).length).toBeGreaterThan(2);
  }
});

describe('bounds', () => {
  test('a mail that would repeat without end stops', async () => {
    const list = Array.from({ length: 150 }, () => 'x');
    const nested = blankTemplate('T', 's', [
      c.section('Each', [c.block('spacer', { loop: { list: 'list', as: 'b' } })], {
        loop: { list: 'list', as: 'a' },
      }),
    ]);
    const { mail, cut } = await mailOf(nested, { list });
    expect(mail.html.length).toBeLessThan(30_000_000);
    const [inner] = nested.sections[0]?.columns[0]?.blocks ?? [];
    expect(cut).toEqual({ by: 'repeats', node: inner?.id, path: 'loop' });
    const dry = await mailOf(nested, { list }, { tally: new Tally(), dry: true });
    expect(dry.cut).toEqual(cut);
  });

  test('the last that fits is whole, one more is not', async () => {
    const each = template(c.block('spacer', { loop: { list: 'list', as: 'a' } }));
    const list = Array.from({ length: 20_000 }, () => 'x');
    expect((await mailOf(each, { list })).cut).toBeUndefined();
    const { cut } = await mailOf(each, { list: [...list, 'x'] });
    expect(cut).toMatchObject({ by: 'repeats', path: 'loop' });
  });

  test('what does not fit any more tells where it would have stood', async () => {
    const long = 'x'.repeat(99_000);
    const last = c.text('{{ long }}{{ long }}', { id: 'last' });
    const fits = Array.from({ length: 40 }, () => c.text('{{ long }}'));
    expect((await mailOf(template(...fits), { long })).cut).toBeUndefined();
    const { cut, mail } = await mailOf(template(...fits, last), { long });
    expect(cut).toEqual({ by: 'length', node: 'last', path: 'text' });
    expect(mail.html.length).toBeLessThan(4_100_000);
  });

  test('marks for a canvas take no room: what is whole as a mail is whole on it', async () => {
    const full = template(...Array.from({ length: 40 }, () => c.text('{{ long }}')));
    const long = 'x'.repeat(100_000);
    expect((await mailOf(full, { long })).cut).toBeUndefined();
    expect((await mailOf(full, { long }, { canvas: true })).cut).toBeUndefined();
    full.envelope.from_name = '{{ first(many) }}';
    const one = { long, many: ['y'] };
    const { cut } = await mailOf(full, one);
    expect(cut).toMatchObject({ by: 'length' });
    expect((await mailOf(full, one, { canvas: true })).cut).toEqual(cut);
  });

  test('more work than a mail may take is told where a list stops for it', async () => {
    const list = Array.from({ length: 9_000 }, (_, n) => ({ n }));
    const asks = template(
      c.text('{{ sum(list, n * one.n) }}', {
        loop: { list: 'list', as: 'one' },
        id: 'asks',
      }),
    );
    expect((await mailOf(asks, { list: list.slice(0, 100) })).cut).toBeUndefined();
    expect((await mailOf(asks, { list })).cut).toEqual({ by: 'work', node: 'asks', path: 'loop' });
  });
});

describe('the recipient’s name', () => {
  const named = template(c.text('Hello'));
  named.envelope.to_name = '{{ title(person.first_name) }} {{ person.last_name }}';

  test('is told beside the mail, on one line; where it is blank it is not there', async () => {
    const of = async (person: object) => (await mailOf(named, { person })).mail.to_name;
    expect(await of({ first_name: 'maud', last_name: 'Fennimore\r\nBcc: x@x.example' })).toBe(
      'Maud Fennimore Bcc: x@x.example',
    );
    expect(await of({ last_name: '' })).toBeUndefined();
    expect((await mailOf(template(c.text('Hello')), {})).mail).not.toHaveProperty('to_name');
  });

  test('needs no fallback, and parts no variants: nobody reads their own name', async () => {
    const [site] = templateSites(named).filter(({ path }) => path === 'to_name');
    expect(site?.use).toBe('value');
    const tally = new Tally();
    await mailOf(named, { person: {} }, { tally });
    expect(tally.decisions.map(({ path }) => path)).not.toContain('to_name');
  });
});

describe('time and place', () => {
  test('today is the recipient’s calendar day, now the moment asked for', async () => {
    const said = template(c.text('{{ today = "2026-11-24" }} {{ date(now, "HH:mm") }}'));
    const at = (timezone: string) => mailOf(said, { person: { timezone } });
    expect((await at('Europe/Berlin')).mail.text.trim()).toBe('true 10:00');
    expect((await at('Pacific/Auckland')).mail.text.trim()).toBe('true 22:00');
    expect((await at('Pacific/Honolulu')).mail.text.trim()).toBe('false 23:00');
  });
});

describe('values that a mail cannot take', () => {
  test('a list longer than what is printed leaves its place blank', async () => {
    const many = Array.from({ length: 10_000 }, (_, i) => `member ${i}`);
    const { mail } = await mailOf(template(c.text('<{{ many }}>')), { many });
    expect(mail.text.trim()).toBe('<>');
  });

  test('white space without end is closed up in the text part without delay', async () => {
    const gap = `a${' '.repeat(99_000)}b`;
    const start = performance.now();
    const { mail } = await mailOf(template(c.text('{{ gap }}')), { gap });
    expect(mail.text.trim()).toBe(gap);
    expect(performance.now() - start).toBeLessThan(2000);
  });

  test('the members of a long loop are sorted, whatever was worked out before', async () => {
    const list = Array.from({ length: 12_000 }, (_, n) => ({ n }));
    const items = { list: 'list', as: 'one', at_most: 2 };
    const block = c.text('{{ sum(list, n) }} {{ one.n }}', {
      loop: { ...items, sort: { by: 'one.n', direction: 'descending' } },
    });
    const { mail } = await mailOf(template(block), { list });
    expect(mail.text).toContain('11999');
    expect(mail.text).toContain('11998');
  });
});

describe('a list that leaves out what the mail shows above', () => {
  const c = composer(countedIds());
  const record = {
    best: ['a', 'b', 'c', 'd'].map((sku) => ({ sku, name: sku })),
    mine: [
      { sku: 'b', name: 'b' },
      { sku: 'd', name: 'd' },
    ],
    words: ['x'],
  };
  const shown = async (second: object, first = 'mine') => {
    const template = blankTemplate('T', 's', [
      c.section('One', [c.text('1:{{ p.name otherwise p }}', { loop: { list: first, as: 'p' } })]),
      c.section('Two', [c.text('2:{{ p.name }}', { loop: { list: 'best', as: 'p', ...second } })]),
    ]);
    const { mail } = await mailOf(template, record);
    const names = (text: string) =>
      [...text.matchAll(/2:(?:<[^>]*>)?(\w)/g)].map(([, name]) => name);
    expect(names(mail.html)).toEqual(names(mail.text));
    return names(mail.text);
  };
  test('others come in its place, in the HTML and in the text', async () => {
    expect(await shown({ once: true, at_most: 2 })).toEqual(['a', 'c']);
    expect(await shown({ at_most: 2 })).toEqual(['a', 'b']);
    expect(await shown({ once: true, where: 'p.sku = "b"' })).toEqual([]);
    expect(await shown({ once: true, list: 'mine', at_most: 3, fill: 'best' })).toEqual(['a', 'c']);
  });
  test('what is no product is above nothing', async () => {
    expect(await shown({ once: true }, 'words')).toEqual(['a', 'b', 'c', 'd']);
  });
});

describe('a list that is filled up from another', () => {
  const shown = async (loop: object) => {
    const record = {
      mine: [{ sku: 'a' }, { sku: 'b' }],
      best: [{ sku: 'b' }, { sku: 'c' }, { sku: 'd' }],
    };
    const block = c.text('{{ p.sku }}', { loop: { list: 'mine', as: 'p', ...loop } as never });
    return (await mailOf(template(block), record)).mail.text.split(/\s+/).filter(Boolean);
  };

  test('has as many as it may, none twice, its own first', async () => {
    expect(await shown({ at_most: 3, fill: 'best' })).toEqual(['a', 'b', 'c']);
    expect(await shown({ at_most: 9, fill: 'best' })).toEqual(['a', 'b', 'c', 'd']);
    expect(await shown({ at_most: 1, fill: 'best' })).toEqual(['a']);
    expect(await shown({ at_most: 3, fill: 'best', where: 'p.sku = "x"' })).toEqual([
      ...['b', 'c', 'd'],
    ]);
    expect(await shown({ at_most: 3, fill: 'nothing' })).toEqual(['a', 'b']);
    expect(await shown({ fill: 'best' })).toEqual(['a', 'b']);
  });
});

describe('a mail that is for some people only', () => {
  const asked = (only_if: string) => {
    const given = template(c.text('Hello'));
    return { ...given, envelope: { ...given.envelope, only_if } };
  };

  test('is held for the others, and filled all the same, to look at', async () => {
    const some = asked('count(cart.lines) > 0');
    const held = await mailOf(some, { cart: { lines: [] } });
    expect([held.held, held.mail.text]).toEqual([true, 'Hello\n']);
    expect((await mailOf(some, { cart: { lines: [1] } })).held).toBeUndefined();
    expect((await mailOf(template(c.text('Hello')), {})).held).toBeUndefined();
  });

  test('is held for everybody while its condition cannot be read', async () => {
    expect((await mailOf(asked('count('), { cart: { lines: [1] } })).held).toBe(true);
  });
});
