import fc from 'fast-check';
import { mailOf } from '../build/testing';
import { checkSites } from '../check';
import { withStandard } from '../record';
import { fieldPaths, inferShape } from '../shape';
import { templateSites } from '../site';
import {
  blankTemplate,
  composer,
  countedIds,
  newBlock,
  readTemplate,
  type Block,
  type Template,
} from '../template';
import {
  byName,
  EMPTY_LIBRARY,
  EMPTY_NOTE,
  expand,
  expandFormula,
  isNamed,
  noteGoesWith,
  noteOfRow,
  usesOf,
  withNamed,
  type NamedFormula,
  type ProductNote,
  type ShopLibrary,
} from '.';

const newId = countedIds();
const c = composer(newId);
const named = (name: string, formula: string, more: Partial<NamedFormula> = {}): NamedFormula => ({
  ...{ name, formula, label: name, description: '', group: '', use: 'value' },
  ...more,
});
const words = (text: string): ProductNote['text'] => noteOfRow({ words: text }).text;
const note = (more: Partial<ProductNote>): ProductNote => ({
  ...EMPTY_NOTE,
  text: words('Keep it dry.'),
  ...more,
});

const line = (sku: string, more: object = {}) => ({
  ...{ sku, name: sku, quantity: 1, price: 2, total: 2 },
  ...more,
});
const order = {
  ...{ number: 'N1', status: 'Placed', currency: 'GBP' },
  lines: [
    line('B-1', { category: 'Bulbs', product: { tags: ['Spring'] } }),
    line('B-2', { category: 'Bulbs' }),
    line('T-1', { category: 'Tools' }),
  ],
};
const record = { person: { first_name: 'Maud' }, order };

async function filled(template: Template, library: Partial<ShopLibrary>, of: object = record) {
  const read = readTemplate(
    JSON.parse(JSON.stringify(expand(template, { ...EMPTY_LIBRARY, ...library }))),
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const { mail, findings } = await mailOf(read.template, of as never);
  expect(findings).toEqual([]);
  return mail;
}
const withBlock = (block: Block) => blankTemplate('T', 's', [c.section('S', [block])]);
const count = (text: string, part: string) => text.split(part).length - 1;

describe('a formula with a name', () => {
  test('stands for itself wherever its name stands', () => {
    const all = byName([
      named('greeting', 'person.first_name otherwise "there"'),
      named('hello', '"Hello " & own.greeting'),
    ]);
    expect(expandFormula('upper(own.hello)', all)).toBe(
      'upper(("Hello " & (person.first_name otherwise "there")))',
    );
    expect(expandFormula('own.nobody & 1', all)).toBe('own.nobody & 1');
    expect(expandFormula('"own.greeting"', all)).toBe('"own.greeting"');
    expect([...usesOf('own.hello', all)]).toEqual(['hello', 'greeting']);
  });

  test('that comes round to itself ends, and is told', () => {
    const all = byName([named('a', 'own.b & 1'), named('b', 'own.a & 2')]);
    expect(expandFormula('own.a', all).length).toBeLessThan(300);
    expect(usesOf('own.b', all).has('b')).toBe(true);
  });

  test('is expanded in words, texts, conditions and loops; what uses none is given back itself', async () => {
    const heading = { ...newBlock('heading', newId), text: 'For {{ own.name }}!' } as Block;
    const template = withBlock({ ...heading, when: 'own.is_known' });
    const formulas = [
      named('name', 'person.first_name otherwise "you"'),
      named('is_known', 'person.first_name is filled', { use: 'condition' }),
    ];
    expect((await filled(template, { formulas })).text).toContain('For Maud!');
    expect((await filled(template, { formulas }, {})).text).not.toContain('For');
    expect(expand(withBlock(newBlock('text', newId)), { formulas, notes: [] })).toEqual(
      expect.objectContaining({ name: 'T' }),
    );
    const plain = withBlock(newBlock('divider', newId));
    expect(expand(plain, { formulas, notes: [] })).toBe(plain);
  });

  test('has a type, so that formulas that use it are checked', () => {
    const shape = withNamed(withStandard(inferShape([record]), 1), [
      named('spent', 'order.total otherwise 0'),
      named('many', 'own.spent > 10', { use: 'condition' }),
    ]);
    const block = { ...newBlock('heading', newId), text: '{{ money(own.spnt) }}' } as Block;
    const [found] = checkSites(templateSites(withBlock(block)), shape);
    expect(found?.message).toMatch(/spnt/);
    expect(found?.repair?.text).toBe('own.spent');
    const sound = { ...block, text: '{{ money(own.spent) }}', when: 'own.many' } as Block;
    expect(checkSites(templateSites(withBlock(sound)), shape)).toEqual([]);
  });

  test('expanding changes nothing but names: any text without the record stays', () => {
    const all = byName([named('x', '1')]);
    fc.assert(
      fc.property(fc.string(), (text) => {
        fc.pre(!text.includes('own'));
        expect(expandFormula(text, all)).toBe(text);
      }),
    );
  });
});

describe('product notes', () => {
  const slot = (place: 'before' | 'after' | 'address' = 'after') =>
    withBlock({ ...newBlock('notes', newId), place } as Block);
  const table = withBlock({
    ...newBlock('lines', newId),
    items: { list: 'order.lines', as: 'line' },
    notes: true,
  } as Block);

  test('are shown once however many lines ask for them, with their words filled', async () => {
    const bulbs = note({
      ...{
        title: 'Bulbs, {{ person.first_name }}',
        categories: ['Bulbs'],
        link: 'https://q.example/b',
      },
      text: words('Plant {{ order.number }} deep.\nWater it.'),
    });
    const mail = await filled(slot(), { notes: [bulbs] });
    expect(count(mail.html, 'Plant')).toBe(1);
    expect(mail.html).toContain('Bulbs, Maud');
    expect(mail.html).toContain('href="https://q.example/b"');
    expect(mail.text).toBe('Bulbs, Maud\nPlant N1 deep.\n\nWater it.\nhttps://q.example/b\n');
  });

  test('go with a SKU, a category or a tag, and with the statuses that they name', async () => {
    const shown = async (more: Partial<ProductNote>, of: object = record) =>
      count((await filled(slot(), { notes: [note(more)] }, of)).html, 'Keep it dry');
    expect(await shown({ skus: ['T-1'] })).toBe(1);
    expect(await shown({ skus: ['T-9'] })).toBe(0);
    expect(await shown({ tags: ['Spring'] })).toBe(1);
    expect(await shown({})).toBe(1);
    expect(await shown({ statuses: ['placed', 'Sent'] })).toBe(1);
    expect(await shown({ statuses: ['Sent'] })).toBe(0);
    expect(await shown({ skus: ['B-1'] }, {})).toBe(0);
    expect(await shown({ place: 'before', skus: ['B-1'] })).toBe(0);
  });

  test('for a line stand below the first line that asks for them', async () => {
    const mail = await filled(table, {
      notes: [
        note({ place: 'line', categories: ['Bulbs'], text: words('Deep and early.') }),
        note({ place: 'line', skus: ['T-1'], text: words('Oil the handle.') }),
        note({ place: 'line', text: words('With thanks.') }),
      ],
    });
    const places = ['B-1', 'Deep and early', 'B-2', 'T-1', 'Oil the handle', 'With thanks'];
    for (const text of [mail.text, mail.html.slice(mail.html.indexOf('<body'))]) {
      const at = places.map((place) => text.indexOf(place));
      expect(at).toEqual([...at].sort((a, b) => a - b));
      expect(Math.min(...at)).toBeGreaterThanOrEqual(0);
      for (const once of ['Deep and early', 'Oil the handle', 'With thanks'])
        expect(count(text, once)).toBe(1);
    }
  });

  test('stand though the product of an earlier line has left the catalog', async () => {
    const known = { product: { category: 'Bulbs', categories: ['Bulbs'], tags: ['Spring'] } };
    const lines = [line('GONE'), line('B-1', known), line('B-2', known)];
    const of = { ...record, order: { ...order, lines }, product: known.product };
    for (const asked of [{ categories: ['Bulbs'] }, { tags: ['Spring'] }]) {
      const { text } = await filled(table, { notes: [note({ place: 'line', ...asked })] }, of);
      expect(count(text, 'Keep it dry')).toBe(1);
      expect(text.indexOf('Keep it dry')).toBeGreaterThan(text.indexOf('B-1'));
      expect(text.indexOf('Keep it dry')).toBeLessThan(text.indexOf('B-2'));
      // Nor does what the record is about, a product, stand in for that of a line.
      const gone = { ...of, order: { ...order, lines: [line('GONE')] } };
      const after = await filled(slot(), { notes: [note({ place: 'after', ...asked })] }, gone);
      expect(after.html).not.toContain('Keep it dry');
    }
  });

  test('a picture of a note comes at its size, and none leaves no hole', async () => {
    const image = '{{ shop.pictures }}/library/p1/600x400';
    const of = { ...record, shop: { pictures: 'https://p.example' } };
    const mail = await filled(slot(), { notes: [note({ image })] }, of);
    expect(mail.html).toContain('https://p.example/library/p1/120x80');
    expect((await filled(slot(), { notes: [note({ image })] })).html).not.toContain('<img');
  });

  test('a row of a source is a note about a product or a category', () => {
    const row = {
      about: 'Bulbs',
      title: 'T',
      words: 'A {{ order.number }}\n{{ bad',
      status: 'a| b',
    };
    expect(noteOfRow(row)).toMatchObject({
      ...{ skus: ['Bulbs'], categories: ['Bulbs'], statuses: ['a', 'b'], place: 'after' },
      text: {
        content: [
          { content: [{ text: 'A ' }, { type: 'tag' }] },
          { content: [{ text: '{{ bad' }] },
        ],
      },
    });
    expect(noteGoesWith(noteOfRow(row), { sku: 'x', categories: ['Bulbs'] })).toBe(true);
    expect(noteGoesWith(noteOfRow(row), { sku: 'x', category: 'Pots' })).toBe(false);
  });
});

test('a named formula is called by its name, and offers its name as no value of it', () => {
  const shape = withNamed(inferShape([{ person: { orders_count: 3 } }]), [
    named('regular', 'person.orders_count >= 3', { label: 'Regular customer', use: 'condition' }),
  ]);
  const found = fieldPaths(shape).find(({ path }) => path === 'own.regular');
  expect(found).toMatchObject({ label: 'Regular customer', field: { samples: [] } });
});

test.each([
  ['own.regular', true],
  [' own.regular ', true],
  ['own.regular and cart.count > 1', false],
  ['upper(own.greeting)', false],
  ['person.regular', false],
  ['own.rule.name', false],
  ['own.', false],
])('“%s” is a name and nothing more: %s', (source, is) => expect(isNamed(source)).toBe(is));
