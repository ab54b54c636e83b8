import { blankTemplate, composer, countedIds } from '../template';
import { templateSites } from '../site';
import { catalogsRead, fieldsRead, pathsRead } from './paths';

const c = composer(countedIds());
const template = blankTemplate('Paths', 's', [
  c.section('S', [
    {
      ...c.text('{{ line.name }} {{ line.product.latin_name otherwise "" }}'),
      loop: { list: 'cart.lines where (price > 3)', as: 'line' },
      when: 'count(catalog.garden where (stock = 0)) > 0',
    },
    c.text(
      '{{ sum(order.lines, quantity) }} {{ first(feeds.furrow.posts).title }} {{ person["odd name"] }}',
    ),
  ]),
]);

test('paths are read with loops resolved, and bare names as fields of members', () => {
  const paths = pathsRead(templateSites(template));
  expect([...paths]).toEqual(
    expect.arrayContaining([
      'cart.lines.name',
      'cart.lines.price',
      'cart.lines.product.latin_name',
      'catalog.garden.stock',
      'order.lines.quantity',
      'feeds.furrow.posts.title',
      'person.odd name',
    ]),
  );
});

test('fields below a path, or null where it is not read', () => {
  expect(fieldsRead(templateSites(template), [['cart']])).toEqual(['lines']);
  expect(
    fieldsRead(templateSites(template), [
      ['catalog', 'garden'],
      ['cart', 'lines', 'product'],
    ]),
  ).toEqual(['latin_name', 'stock']);
  expect(fieldsRead(templateSites(template), [['coupon']])).toBeNull();
});

test('the catalogs that are named, or any where that is worked out', () => {
  expect(catalogsRead(templateSites(template))).toEqual(['garden']);
  const any = blankTemplate('Any', 's', [
    c.section('S', [c.text('{{ count(catalog[person.favourite]) }}')]),
  ]);
  expect(catalogsRead(templateSites(any))).toBeNull();
});
