import type { NoteProducts, NotesOfShop, Samples } from '@carafe/contract';
import { EMPTY_NOTE, noteOfRow } from '@carafe/core/library';
import {
  blankTemplate,
  composer,
  newBlock,
  type Block,
  type Template,
} from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const api = asking(() => carafe);
const named = (name: string, formula: string, use = 'value') => ({
  ...{ name, formula, use, label: `The ${name}`, description: '', group: '' },
});
const add = async (...[name, formula, use]: Parameters<typeof named>) => {
  const answer = await api('post', '/shops/s/formulas', named(name, formula, use));
  expect([answer.status, said(answer)]).toEqual([201, undefined]);
  return (answer.body as { id: string }).id;
};
const id = () => carafe.newId();
function templateWith(block: Block): Template {
  return blankTemplate('Mail', 's', [composer(id).section('S', [block])], 'post@s.example');
}
const store = async (template: Template) => {
  const answer = await api('post', '/templates', { template });
  return (answer.body as { id: string }).id;
};
/** A source with rows typed in by hand. */
async function typed(target: string, ...records: object[]): Promise<void> {
  const source = await api('post', '/sources', {
    ...{ shop: 's', name: target, kind: 'typed', target, formula_name: target },
  });
  const { id: of } = source.body as { id: string };
  const answer = await api('post', `/sources/${of}/typed`, { records });
  expect([source.status, answer.status]).toEqual([201, 200]);
}

describe('a formula with a name', () => {
  test('is changed once and everywhere: the next mail has it', async () => {
    const formula = await add('greeting', '"Dear " & person.first_name');
    const template = await store(
      templateWith({ ...newBlock('heading', id), text: '{{ own.greeting }}!' } as Block),
    );
    const text = async () => {
      const body = {
        template_id: template,
        version: 'draft',
        records: [{ person: { first_name: 'Ann' } }],
      };
      const answer = await api('post', '/render', body);
      return (answer.body as { mails: { text: string }[] }).mails[0]?.text;
    };
    expect(await text()).toBe('Dear Ann!\n');
    await api('put', `/formulas/${formula}`, named('greeting', '"Hello " & person.first_name'));
    expect(await text()).toBe('Hello Ann!\n');
    const list = await api('get', '/shops/s/formulas');
    expect(list.body).toMatchObject({ formulas: [{ used_by: [{ name: 'Mail' }] }] });
    // What is used stays.
    const gone = await api('delete', `/formulas/${formula}`);
    expect([gone.status, said(gone)]).toEqual([409, expect.stringMatching(/used in “Mail”/)]);
    const renamed = await api('put', `/formulas/${formula}`, named('hello', '1'));
    expect(said(renamed)).toMatch(/cannot be renamed/);
    await api('delete', `/templates/${template}`);
    expect((await api('delete', `/formulas/${formula}`)).status).toBe(204);
  });

  test('that cannot be read, whose name is taken, or that is made of itself is refused in words', async () => {
    await add('a', 'own.b & 1');
    const refused = async (...given: Parameters<typeof named>) =>
      said(await api('post', '/shops/s/formulas', named(...given)));
    expect(await refused('a', '1')).toMatch(/There is a formula “a” already/);
    expect(await refused('b', 'own.a')).toMatch(/“b” would refer to itself/);
    expect(await refused('c', '1 +')).toMatch(/^This formula cannot be read: /);
    expect(await refused('1 c', '1')).toMatch(/begins with a letter/);
    expect((await api('get', '/shops/nobody/formulas')).status).toBe(404);
  });

  test('counts people as a condition, and is shown for three of them, the blank one too', async () => {
    await typed(
      'people',
      { email: 'ann@q.example' },
      { email: 'bob@q.example', first_name: 'Name 1' },
      { email: 'cid@q.example', first_name: 'Name 2' },
    );
    await add('known', 'person.first_name is filled', 'condition');
    const audience = await api('post', '/shops/s/audience', { formula: 'own.known' });
    expect(audience.body).toMatchObject({ of: 3, holds: 2 });
    const formula = 'person.first_name & if(person.email starts with "cid", " the long", "")';
    const answer = await api('post', '/shops/s/samples', { formula });
    const { of, blank, people: shown } = answer.body as Samples;
    expect([of, blank]).toEqual([3, 1]);
    expect(shown.map(({ text }) => text)).toEqual(['Name 1', 'Name 2 the long', '']);
    const shape = await api('get', '/shops/s/shape');
    expect(JSON.stringify(shape.body)).toContain('"own"');
  });
});

describe('product notes', () => {
  const note = (more: object) => ({
    ...EMPTY_NOTE,
    text: noteOfRow({ words: 'Water it.' }).text,
    ...more,
  });

  test('are told with the products that have them, those that have none, and where they show', async () => {
    await typed(
      'catalog',
      { sku: 'B-1', name: 'Iris', category: 'Bulbs', price: 1 },
      { sku: 'B-2', name: 'Lily', category: 'Bulbs', price: 1 },
      { sku: 'T-1', name: 'Trowel', category: 'Tools', price: 1 },
    );
    await store(templateWith({ ...newBlock('notes', id), place: 'after' } as Block));
    const made = await api(
      'post',
      '/shops/s/notes',
      note({ title: 'Bulbs', categories: ['Bulbs'] }),
    );
    expect(made.status).toBe(201);
    const told = async () => (await api('get', '/shops/s/notes')).body as NotesOfShop;
    const { notes, without, categories } = await told();
    expect(notes).toMatchObject([
      { products: 2, sample: ['Iris', 'Lily'], shown_in: [{ name: 'Mail' }], source: null },
    ]);
    expect(without).toEqual({ count: 1, sample: ['Trowel'] });
    expect(categories).toEqual(['Bulbs', 'Tools']);
    const products = async (query: string) =>
      (await api('get', `/shops/s/notes/products?${query}`)).body as NoteProducts;
    const iris = { sku: 'B-1', name: 'Iris', category: 'Bulbs', notes: ['Bulbs'] };
    const trowel = { sku: 'T-1', name: 'Trowel', category: 'Tools', notes: [] };
    expect((await products('')).products).toMatchObject([iris, { sku: 'B-2' }, trowel]);
    expect(await products('limit=1')).toEqual({ total: 3, products: [iris] });
    expect(await products('note=0&offset=1')).toMatchObject({
      total: 2,
      products: [{ name: 'Lily', notes: ['Bulbs'] }],
    });
    expect(await products('without=true')).toEqual({ total: 1, products: [trowel] });
    expect(await products('q=bUlBs&without=true')).toEqual({ total: 0, products: [] });
    expect((await products('q=t-1')).products).toEqual([trowel]);
    // A note that was deleted meanwhile has none.
    expect(await products('note=7')).toEqual({ total: 0, products: [] });
    const { id: of } = made.body as { id: string };
    await api(
      'put',
      `/notes/${of}`,
      note({ title: 'Tools', categories: ['Tools'], place: 'line' }),
    );
    expect((await told()).notes).toMatchObject([{ products: 1, shown_in: [] }]);
    expect((await api('delete', `/notes/${of}`)).status).toBe(204);
    expect((await api('delete', `/notes/${of}`)).status).toBe(404);
    expect((await told()).notes).toEqual([]);
  });

  test('are told to show where they are sent, though the draft does without them', async () => {
    const slot = templateWith({ ...newBlock('notes', id), place: 'after' } as Block);
    const { body } = await api('post', '/templates', { template: slot });
    const { id: template, version } = body as { id: string; version: number };
    await api('post', '/shops/s/notes', note({ title: 'Bulbs' }));
    await api('post', `/templates/${template}/publish`, { version, note: '' });
    const plain = templateWith(newBlock('divider', id) as Block);
    await api('put', `/templates/${template}`, { version, template: plain });
    expect(((await api('get', '/shops/s/notes')).body as NotesOfShop).notes).toMatchObject([
      { shown_in: [{ id: template, name: 'Mail (published version)' }] },
    ]);
  });

  test('are in the mails that are filled, also those that a source feeds', async () => {
    const template = await store(
      templateWith({ ...newBlock('notes', id), place: 'after' } as Block),
    );
    await api('post', '/shops/s/notes', note({ skus: ['P'] }));
    await typed('notes', { about: 'P', words: 'In pots, {{ order.number }}.' });
    const order = {
      number: 'N7',
      lines: [{ sku: 'P', name: 'Pot', quantity: 1, price: 1, total: 1 }],
    };
    const answer = await api('post', '/render', {
      template_id: template,
      version: 'draft',
      records: [{ order }],
    });
    expect((answer.body as { mails: { text: string }[] }).mails[0]?.text).toBe(
      'Water it.\n\nIn pots, N7.\n',
    );
  });
});
