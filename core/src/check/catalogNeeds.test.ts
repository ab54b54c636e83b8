import { templateSites } from '../site';
import { blankTemplate, composer, countedIds, type Block } from '../template';
import { catalogNeeds } from './catalogNeeds';

const c = composer(countedIds());
const needsOf = (...blocks: Block[]) =>
  catalogNeeds(templateSites(blankTemplate('T', 's', [c.section('S', blocks)])));
const looped = (list: string, more: object = {}) =>
  c.text('{{ p.name }}', { loop: { list, as: 'p', ...more } });

describe('what a template needs of catalogs', () => {
  it('is nothing where it names none', () => {
    expect(needsOf(c.text('{{ person.first_name }}'))).toEqual([]);
  });

  it('is what its loops show, where they show everybody the same', () => {
    const loop = { list: 'catalog.garden', as: 'p', where: 'p.price < 10', at_most: 4 };
    expect(needsOf(looped('catalog.garden', { where: 'p.price < 10', at_most: 4 }))).toEqual([
      { name: 'garden', loops: [loop] },
    ]);
  });

  it('is both loops of one catalog', () => {
    const [need] =
      needsOf(
        looped('catalog.garden', { at_most: 2 }),
        looped('catalog.garden where (stock > 0)', { at_most: 3 }),
      ) ?? [];
    expect(need?.loops).toHaveLength(2);
  });

  it.each([
    ['its filter asks about the recipient', { where: 'p.category = person.favourite' }],
    ['its order does', { sort: { by: 'p.price - cart.total', direction: 'ascending' } }],
    ['it prints in the recipient’s language', { where: 'money(p.price) is filled' }],
  ])('is the whole catalog where %s', (_, more) => {
    expect(needsOf(looped('catalog.garden', { at_most: 2, ...more }))).toEqual([
      { name: 'garden', loops: null },
    ]);
  });

  it('is the whole catalog where a formula counts it or looks into it', () => {
    for (const formula of ['count(catalog.garden)', 'first(catalog.garden).name'])
      expect(needsOf(looped('catalog.garden', { at_most: 2 }), c.text(`{{ ${formula} }}`))).toEqual(
        [{ name: 'garden', loops: null }],
      );
  });

  it('is every catalog where one is named only when the mail is filled', () => {
    expect(needsOf(c.text('{{ count(catalog[person.club]) }}'))).toBeNull();
  });
});
