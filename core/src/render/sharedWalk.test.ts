import fc from 'fast-check';
import { build, type Program } from '../build';
import type { Fields } from '../formula';
import { blankTemplate, composer, countedIds, type Block, type Loop } from '../template';
import { prepare } from '.';

// What is remembered of one recipient’s mail must be what the next would have come to by itself.

const c = composer(countedIds());
const LOOPS: Loop[] = [
  {
    list: 'catalog.garden',
    as: 'p',
    where: 'in_stock',
    sort: { by: 'price', direction: 'ascending' },
  },
  { list: 'catalog.garden where price < 4', as: 'p', at_most: 2 },
  { list: 'catalog.garden', as: 'p', where: 'p.price < limit', at_most: 3 },
  { list: 'catalog.garden', as: 'p', where: 'category = person.city' },
  { list: 'catalog.garden', as: 'p', where: 'added_at > add_days(now, -10)' },
  { list: 'catalog.garden', as: 'p', where: 'day(added_at) < 9' },
  { list: 'catalog.garden', as: 'p', where: 'money(price) contains "£"' },
  { list: 'cart.lines', as: 'p' },
  { list: 'feeds.furrow.posts', as: 'p', sort: { by: 'title', direction: 'descending' } },
];
const SHOWN = '{{ p.name otherwise p.title otherwise "?" }} {{ money(p.price) }}';
const template = blankTemplate(
  'T',
  's',
  LOOPS.map((loop) => c.section('S', [c.text(SHOWN, { loop })])),
);
template.sections.push(
  c.section('Nested', [
    Object.assign(c.block('group', { loop: { list: 'cart.lines', as: 'l' } }), {
      blocks: [
        c.text(`{{ l.name }}: ${SHOWN}`, {
          loop: { list: 'catalog.garden', as: 'p', where: 'price < l.price' },
        }),
      ],
    }),
  ]),
);

// Bodies that are the same for all, and bodies that ask for something of the recipient’s, a member’s or the mail’s.
const IN_STOCK: Loop = { list: 'catalog.garden', as: 'p', where: 'in_stock' };
const inLoop = (blocks: Block[]) => Object.assign(c.block('group', { loop: IN_STOCK }), { blocks });
template.sections.push(
  c.section('Bodies', [
    c.text('{{ p.name }} for {{ person.city otherwise "you" }}', { loop: IN_STOCK }),
    c.text('{{ limit otherwise "no limit" }} {{ category }}', { loop: IN_STOCK }),
    c.text('{{ money(4) }} {{ format_date(today, "d MMMM") }} {{ position }}', { loop: IN_STOCK }),
    inLoop([
      c.text('Cheap', { when: 'p.price < 4' }),
      c.text('Within', { when: 'p.price < limit' }),
    ]),
    c.button('{{ p.name }}', '{{ p.url }}', { loop: IN_STOCK }),
    inLoop([c.text('{{ l.name }}', { loop: { list: 'cart.lines', as: 'l' } })]),
    inLoop([
      c.text('{{ q.name }}', {
        loop: { list: 'catalog.garden', as: 'q', where: 'q.price < p.price' },
      }),
    ]),
    c.text(SHOWN, { loop: { ...IN_STOCK, at_most: 2 } }),
    c.block('cards', { items: { list: 'catalog.garden', as: 'product', once: true } }),
  ]),
);
const TAGS = [
  [],
  [{ parameter: 'source', value: 'mail {{ shop.currency }}' }],
  [{ parameter: 'city', value: '{{ person.city }}' }],
];

const product = fc.record(
  {
    name: fc.constantFrom('Aster', 'Bean', 'Clover'),
    price: fc.integer({ min: 1, max: 9 }),
    in_stock: fc.boolean(),
    category: fc.constantFrom('York', 'Seeds'),
    sku: fc.constantFrom('A', 'B', 'C'),
    url: fc.constantFrom('https://s.example/a', 'https://s.example/leave'),
    added_at: fc.integer({ min: 1, max: 28 }).map((day) => new Date(Date.UTC(2026, 10, day, 23))),
  },
  { requiredKeys: ['name', 'price'] },
);
const shared = fc.record({
  catalog: fc.record({ garden: fc.array(product, { maxLength: 6 }) }),
  feeds: fc.constant({ furrow: { posts: [{ title: 'One' }, { title: 'Two' }] } }),
  shop: fc.record({ currency: fc.constantFrom('GBP', 'EUR') }),
});
const own = fc.record(
  {
    person: fc.record({
      city: fc.constantFrom('York', 'Ely'),
      locale: fc.constantFrom('en-GB', 'de-DE'),
      timezone: fc.constantFrom('Europe/London', 'Pacific/Auckland'),
    }),
    cart: fc.record({
      currency: fc.constantFrom('GBP', 'EUR'),
      lines: fc.array(
        fc.record({ name: fc.constant('Pot'), price: fc.integer({ min: 1, max: 9 }) }),
        { maxLength: 2 },
      ),
    }),
    // A name of a product that somebody has as a field of the record.
    limit: fc.integer({ min: 0, max: 9 }),
    price: fc.integer({ min: 0, max: 9 }),
    // A product that happens to stand where this one leaves the list.
    links: fc.record({
      unsubscribe: fc.constantFrom('https://s.example/leave', 'https://s.example/else'),
    }),
  },
  { requiredKeys: [] },
);
const mails = fc
  .tuple(
    fc.array(shared, { minLength: 1, maxLength: 2 }),
    fc.array(fc.tuple(own, fc.nat(1), fc.nat(2)), { maxLength: 6 }),
  )
  .map(([all, each]) =>
    each.map(([one, which, day]) => ({
      record: { ...one, ...(all[which % all.length] ?? all[0]) } as unknown as Fields,
      asOf: new Date(Date.UTC(2026, 10, 9 + 5 * day, 22)),
    })),
  );

const filled = (program: Program, how: object, options: object = {}) => {
  const render = prepare(program, how);
  return (record: Fields, asOf: Date) => JSON.stringify(render(record, { asOf, ...options }));
};
/** Where lengths are told, as a canvas does, nothing of a loop's body is remembered. */
const ANEW = { lengths: {} };

test.each([
  ['mails', {}],
  ['trails', { trail: true }],
  ['products', { products: true }],
])('%s of many are those that each would get alone', async (_, how) => {
  const programs = await Promise.all(
    TAGS.map(async (link_tags) => (await build({ ...template, link_tags })).program),
  );
  fc.assert(
    fc.property(fc.constantFrom(...programs), mails, (program, given) => {
      const many = filled(program, how);
      for (const { record, asOf } of given)
        expect(many(record, asOf)).toBe(filled(program, how, ANEW)(record, asOf));
    }),
    { numRuns: 60 },
  );
});

test.each([
  ['length', (loop: Loop) => c.text('{{ p.name }}', { loop })],
  ['repeats', (loop: Loop) => c.block('html', { source: '{{ p.name }}', loop })],
])(
  'what a long list puts into an email is cut off by its %s, and told, as it would be alone',
  async (by, made) => {
    const garden = Array.from({ length: 300 }, (_, i) => ({
      sku: `S${i}`,
      name: `N${i}`,
      price: 3,
    }));
    const list: Loop = { list: 'catalog.garden', as: 'p' };
    const long = blankTemplate(
      'T',
      's',
      Array.from({ length: 100 }, (_, i) =>
        c.section('S', [
          made({ ...list, at_most: i % 3 === 0 ? 90 : 300 }),
          c.text('Hidden', { when: 'person.city = "York"' }),
        ]),
      ),
    );
    const { program } = await build(long);
    for (const how of [{ trail: true }, { products: true, text: false }]) {
      const render = filled(program, how);
      const alone = filled(program, how, ANEW);
      for (const city of ['York', 'Ely', 'York']) {
        const record = { catalog: { garden }, person: { city } } as unknown as Fields;
        expect(render(record, new Date(0))).toBe(alone(record, new Date(0)));
      }
      const record = { catalog: { garden } } as unknown as Fields;
      expect(prepare(program, how)(record, { asOf: new Date(0) }).cut?.by).toBe(by);
    }
  },
);

test('a list of the catalog is asked once for all, and anew when the catalog is another', async () => {
  let asked = 0;
  const catalogOf = () => ({
    garden: [
      Object.defineProperty({ name: 'Aster' }, 'price', {
        enumerable: true,
        get: () => {
          asked++;
          return 3;
        },
      }),
    ],
  });
  const one = blankTemplate('T', 's', [
    c.section('S', [
      c.text('{{ p.name }}', { loop: { list: 'catalog.garden', as: 'p', where: 'price < 5' } }),
    ]),
  ]);
  const render = prepare((await build(one)).program, { text: false });
  const catalog = catalogOf();
  const asOf = new Date();
  const fill = (catalog: unknown, name: string) =>
    render({ catalog, person: { name } } as unknown as Fields, { asOf }).mail.html;
  const first = fill(catalog, 'Ada');
  const once = asked;
  expect(once).toBeGreaterThan(0);
  for (let i = 0; i < 50; i++) expect(fill(catalog, `N${i}`)).toBe(first);
  expect(asked).toBe(once);
  fill(catalogOf(), 'Ada');
  expect(asked).toBe(2 * once);
});
