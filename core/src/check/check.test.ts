import { inferShape } from '../shape';
import { blankTemplate, composer, countedIds } from '../template';
import { templateSites } from '../site';
import { checkSites, dataRead } from '.';

const c = composer(countedIds());
const shape = inferShape([
  {
    shop: { name: 'S' },
    person: { first_name: 'A' },
    cart: { lines: [{ name: 'x', properties: [{ name: 'n', value: 'v' }] }] },
  },
  { shop: { name: 'S' }, person: {}, cart: { lines: [] } },
]);
const loop = { list: 'cart.lines', as: 'line' };

test('findings stand at their node and property, inside loops too', () => {
  const template = blankTemplate('T', 's', [
    c.section(
      'S',
      [
        c.heading('{{ line.nam }}', { id: 'h', loop }),
        c.text('{{ person.first_name }}', { id: 't', when: 'person.first_name' }),
        c.text('{{ property.value }}{{ line.name }}', {
          id: 'p',
          loop: { list: 'line.properties', as: 'property' },
        }),
      ],
      { loop },
    ),
  ]);
  const found = checkSites(templateSites(template), shape).map(
    (f) => `${f.node} ${f.path} ${f.severity}`,
  );
  expect(found).toEqual(['h text error', 't when error', 't text.0 warning']);
});

test('what a template reads is found in conditions, loops and addresses', () => {
  const template = blankTemplate('T', 's', [
    c.section('S', [
      c.text('x', { when: 'order.total > 1' }),
      c.button('{{ coupon.a.code }}', '{{ cart.url }}'),
      c.text('y', { loop: { list: 'feeds.a.posts', as: 'post' } }),
    ]),
  ]);
  expect(dataRead(templateSites(template))).toEqual(['cart', 'order', 'feeds', 'coupon']);
});

test('a tag needs no fallback where a condition around says that it is filled', () => {
  const tag = '{{ title(person.first_name) }}';
  const found = (when?: string, around?: string) => {
    const section = c.section('S', [c.heading(tag, when === undefined ? {} : { when })]);
    const template = blankTemplate('T', 's', [
      around === undefined ? section : { ...section, when: around },
    ]);
    return checkSites(templateSites(template), shape).filter((f) =>
      f.message.includes('is blank for'),
    ).length;
  };
  expect(found()).toBe(1);
  expect(found('person.first_name is filled')).toBe(0);
  expect(found(undefined, 'count(cart.lines) > 0 and person.first_name is not empty')).toBe(0);
  expect(found('person.first_name is filled or true')).toBe(1);
  expect(found('person.first_name is empty')).toBe(1);
});
