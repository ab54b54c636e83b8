import { blankTemplate, compareTemplates, composer, countedIds, edit, type Template } from '.';

const c = composer(countedIds());
const template = blankTemplate('Cart', 's', [
  c.section('S', [
    c.heading('Hello', { id: 'h' }),
    c.text('Words', { id: 't', when: 'cart is filled' }),
    c.button('Go', 'https://a.example', { id: 'b' }),
  ]),
]);
const changed = (recipe: (draft: Template) => void) => {
  const done = edit(template, 'Change', recipe);
  if (!done) throw new Error('It changes something.');
  return done.template;
};
const blocks = (draft: Template) => draft.sections[0]?.columns[0]?.blocks ?? [];

describe('two versions of a template', () => {
  it('have nothing otherwise where they are the same', () => {
    expect(compareTemplates(template, structuredClone(template))).toEqual([]);
  });

  it('are told apart by name, shop, envelope and house style', () => {
    const theirs = changed((draft) => {
      draft.name = 'Basket';
      draft.envelope.subject = '';
      draft.style.radius = 9;
    });
    expect(compareTemplates({ ...template, shop: 'other' }, theirs)).toMatchObject([
      { what: 'changed', label: 'Name', mine: 'Cart', theirs: 'Basket' },
      { label: 'Shop', mine: 'other', theirs: 's' },
      { label: 'Subject', theirs: 'nothing' },
      { label: 'House style, radius', mine: String(template.style.radius), theirs: '9' },
    ]);
  });

  it('are told apart by what a block says, its condition and its loop', () => {
    const theirs = changed((draft) => {
      const [heading, text] = blocks(draft);
      Object.assign(heading ?? {}, { text: 'Good day', loop: { list: 'cart.lines', as: 'line' } });
      Object.assign(text ?? {}, { when: 'order is filled' });
    });
    const found = compareTemplates(template, theirs);
    expect(found.map(({ label }) => label)).toEqual([
      'Hello: loop',
      'Hello: heading',
      'Words: condition',
    ]);
    expect(found[1]).toMatchObject({ mine: 'Hello', theirs: 'Good day' });
    expect(found[2]).toMatchObject({ mine: 'cart is filled', theirs: 'order is filled' });
  });

  it('say which blocks only one of them has', () => {
    const theirs = changed((draft) => {
      const list = blocks(draft);
      list.splice(0, 1, c.text('New words', { id: 'n' }));
    });
    expect(compareTemplates(template, theirs)).toEqual([
      { what: 'removed', label: 'Hello', mine: 'Hello', theirs: '' },
      { what: 'added', label: 'New words', mine: '', theirs: 'New words' },
    ]);
  });

  it('are never told to be the same where only the order differs', () => {
    const theirs = changed((draft) => void blocks(draft).reverse());
    expect(compareTemplates(template, theirs)).toMatchObject([{ label: 'Order of the parts' }]);
  });

  it('keep long words short', () => {
    const theirs = changed((draft) => void (draft.envelope.subject = 'x'.repeat(500)));
    const [found] = compareTemplates(template, theirs);
    expect(found?.theirs).toHaveLength(60);
    expect(found?.theirs.endsWith('…')).toBe(true);
  });
});
