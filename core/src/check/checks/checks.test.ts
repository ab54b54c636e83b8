import { reviveRecord } from '../../record';
import { Day, type Fields } from '../../formula';
import { pickedLoop } from '../../sentence';
import { blankTemplate, edit, readTemplate, type Template } from '../../template';
import { contrastOf, repairTemplate, CHECKS, type CheckFinding } from '../all';
import {
  c,
  check,
  names,
  people,
  product,
  PRODUCTS,
  sound,
  UNSUBSCRIBE,
  type Given,
} from './testingChecks';

const offers = (more: object = {}) =>
  c.block('cards', { items: { list: 'catalog.garden', as: 'product', at_most: 3, ...more } });
const isPot = (sku: string, more: object) => ({
  products: new Map([...PRODUCTS, product(sku, more)].map((one) => [String(one['sku']), one])),
});
const withProducts = (all: Fields[]) => people(4, () => ({ catalog: { garden: all } }));
const library = (id: string) => `{{ shop.pictures }}/library/${id}/1200x600`;
const picture = (id: string, width = 300) =>
  c.block('picture', { src: library(id), alt: 'A pot', width });

/** For each check one mail that breaks it; and where the sound mail is not its opposite, one that does not. */
const BROKEN: Record<string, { broken: Template; given?: Given; whole?: [Template, Given?] }> = {
  formulas: { broken: sound([c.text('{{ person.frist_name }}')]) },
  expectations: {
    broken: sound([], (t) => (t.expectations = [{ formula: 'length(mail.subject) < 3' }])),
    whole: [
      sound(
        [],
        (t) => (t.expectations = [{ formula: 'any(mail.links, address = links.unsubscribe)' }]),
      ),
    ],
  },
  held_for_all: { broken: sound([], (t) => (t.envelope.only_if = 'cart.total > 900')) },
  blank_tag: {
    broken: sound([c.text('In {{ person.city }}.')]),
    given: {
      records: people(4, (i) =>
        i === 1 ? {} : { person: { first_name: 'A', city: 'Y', locale: 'en-GB' } },
      ),
    },
    whole: [
      sound([c.text('In {{ person.city otherwise "town" }}.')]),
      { records: people(4, (i) => (i === 1 ? {} : { person: { first_name: 'A', city: 'Y' } })) },
    ],
  },
  cut_off: {
    broken: sound([c.text('So many', { loop: { list: 'person.all', as: 'a' } })]),
    given: {
      records: people(4, (i) => (i === 2 ? { person: { all: Array(20_001).fill(1) } } : {})),
    },
  },
  fallback_for_all: { broken: sound([c.text('{{ person.nick otherwise "friend" }}')]) },
  empty_list: {
    broken: sound([c.block('lines')]),
    given: { records: people(4, (i) => (i === 0 ? { cart: { lines: [] } } : {})) },
    whole: [sound([c.block('lines')])],
  },
  missing_picture: {
    broken: sound([offers()]),
    given: { records: withProducts([product('A', { image: undefined })]) },
    whole: [sound([offers()])],
  },
  leftover_words: { broken: sound([c.text('Lorem ipsum dolor sit amet')]) },
  other_total: {
    broken: sound([
      c.block('lines', { items: { list: 'order.lines', as: 'line' } }),
      c.block('totals', { rows: [{ label: 'Total', amount: 'cart.total' }] }),
    ]),
    whole: [
      sound([
        c.block('lines', { items: { list: 'cart.lines', as: 'line' } }),
        c.block('totals', { rows: [{ label: 'Total', amount: 'cart.total' }] }),
      ]),
    ],
  },
  empty_link: {
    broken: sound([c.button('Go', '')]),
    whole: [sound([c.button('Go', 'https://shop.example')])],
  },
  hash_link: { broken: sound([c.button('Go', 'https://shop.example/#')]) },
  test_address: { broken: sound([c.button('Go', 'https://www.example.com/a')]) },
  insecure_link: { broken: sound([c.button('Go', 'http://garden.house/a')]) },
  person_in_address: {
    broken: sound([c.button('Go', 'https://shop.example/?e={{ person.email }}')]),
  },
  same_link: {
    broken: sound([
      c.button('View', 'https://shop.example/', {
        loop: { list: 'catalog.garden', as: 'p', at_most: 3 },
      }),
    ]),
    whole: [
      sound([
        c.button('View', '{{ p.url }}', { loop: { list: 'catalog.garden', as: 'p', at_most: 3 } }),
      ]),
    ],
  },
  alt_text: { broken: sound([c.block('picture', { src: 'https://shop.example/a.png', alt: '' })]) },
  heavy_picture: {
    broken: sound([picture('big', 1_200)]),
    given: { more: { pictures: [{ id: 'big', width: 1_200, height: 600, bytes: 2_000_000 }] } },
    whole: [
      sound([picture('big', 1_200)]),
      { more: { pictures: [{ id: 'big', width: 1_200, height: 600, bytes: 90_000 }] } },
    ],
  },
  large_picture: {
    broken: sound([picture('wide', 100)]),
    given: { more: { pictures: [{ id: 'wide', width: 4_000, height: 2_000, bytes: 90_000 }] } },
    whole: [
      sound([picture('wide', 600)]),
      { more: { pictures: [{ id: 'wide', width: 1_200, height: 600, bytes: 90_000 }] } },
    ],
  },
  unequal_pictures: {
    broken: sound([], (t) => t.sections.push(c.columns('Row', [[picture('a')], [picture('b')]]))),
    given: {
      more: {
        pictures: [
          { id: 'a', width: 600, height: 600, bytes: 1 },
          { id: 'b', width: 600, height: 300, bytes: 1 },
        ],
      },
    },
    whole: [
      sound([], (t) => t.sections.push(c.columns('Row', [[picture('a')], [picture('b')]]))),
      {
        more: {
          pictures: [
            { id: 'a', width: 600, height: 600, bytes: 1 },
            { id: 'b', width: 300, height: 300, bytes: 1 },
          ],
        },
      },
    ],
  },
  subject_blank: { broken: sound([], (t) => (t.envelope.subject = '{{ person.nick }}')) },
  subject_long: { broken: sound([], (t) => (t.envelope.subject = 'word '.repeat(14))) },
  subject_cut: {
    broken: sound([], (t) => (t.envelope.subject = `${'word '.repeat(8)}{{ person.first_name }}`)),
  },
  subject_capitals: { broken: sound([], (t) => (t.envelope.subject = 'LAST CHANCE TODAY')) },
  subject_repeats: { broken: sound([], (t) => (t.envelope.subject = 'Your your pots')) },
  preview_blank: { broken: sound([], (t) => (t.envelope.preview_text = '')) },
  preview_same: { broken: sound([], (t) => (t.envelope.preview_text = t.envelope.subject)) },
  weight: { broken: sound([c.text('long words '.repeat(12_000))]) },
  contrast: { broken: sound([], (t) => (t.style = { ...t.style, ink: '#dddddd' })) },
  contrast_dark: {
    broken: sound([], (t) => (t.style = { ...t.style, on_primary: '#000000', primary: '#00cc00' })),
    whole: [sound([], (t) => (t.style = { ...t.style, quiet: '#444444' }))],
  },
  coupon_unknown: {
    broken: sound([c.text('Take {{ coupon.winter.code }}')]),
    whole: [sound([c.text('Take {{ coupon.spring.code }} or SPRING10')])],
  },
  coupon_ends: {
    broken: sound([c.text('Take {{ coupon.spring.code }}')]),
    given: {
      more: {
        coupons: { spring: { code: 'SPRING10', expires_at: new Date('2026-11-27T00:00:00Z') } },
      },
    },
    whole: [sound([c.text('Take {{ coupon.spring.code }}')])],
  },
  price_missing: {
    broken: sound([offers()]),
    given: { records: withProducts([product('P', { price: 0 })]), more: isPot('P', { price: 0 }) },
    whole: [sound([offers()])],
  },
  price_higher: {
    broken: sound([offers()]),
    given: { records: withProducts([product('H')]), more: isPot('H', { was_price: 9 }) },
    whole: [sound([offers()])],
  },
  out_of_stock: {
    broken: sound([offers()]),
    given: { records: withProducts([product('O')]), more: isPot('O', { in_stock: false }) },
    whole: [sound([offers()])],
  },
  change_unseen: {
    broken: sound([
      Object.assign(offers(), {
        changes: [
          { sku: 'A', words: 'Ours' },
          { sku: 'GONE', words: 'Lost' },
        ],
      }),
    ]),
    whole: [sound([Object.assign(offers(), { changes: [{ sku: 'A', words: 'Ours' }] })])],
  },
  product_gone: {
    broken: sound([offers({ where: 'product.sku in ["A", "GONE"] and in_stock' })]),
    whole: [sound([offers({ where: 'product.sku in ["A", "B"] and not (sku = "GONE")' })])],
  },
  shown_twice: { broken: sound([offers(), offers()]), whole: [sound([offers()])] },
  already_ordered: {
    broken: sound([offers()]),
    given: { records: people(4, () => ({ order: { number: '1', lines: [{ sku: 'B' }] } })) },
    whole: [sound([offers()])],
  },
  unsubscribe: {
    broken: blankTemplate('T', 'house', [c.section('S', [c.text('Words')])]),
    whole: [sound([c.button('Leave', UNSUBSCRIBE)])],
  },
  postal_address: { broken: blankTemplate('T', 'house', [c.section('S', [c.text('Words')])]) },
  service_advert: {
    broken: sound([c.text('Order {{ order.number otherwise "" }}'), offers()]),
    whole: [
      sound([
        c.text('Order {{ order.number otherwise "" }}'),
        { ...offers(), when: 'person.consent' },
      ]),
    ],
  },
  condition_never: {
    broken: sound([c.text('x', { when: 'cart.total > 900' })]),
    whole: [sound([c.text('x', { when: 'cart.total > 13' })])],
  },
  condition_always: {
    broken: sound([c.text('x', { when: 'cart.total > 1' })]),
    whole: [sound([c.text('x', { when: 'cart.total > 13' })])],
  },
  never_reached: {
    broken: sound([c.text('x', { loop: { list: 'cart.gifts', as: 'gift' } })]),
    whole: [sound([c.text('x', { loop: { list: 'cart.lines', as: 'line' } })])],
  },
  language: {
    broken: sound(),
    given: {
      records: people(4, (i) =>
        i > 1 ? {} : { person: { first_name: 'A', city: 'Y', locale: 'de_AT' } },
      ),
    },
  },
  unbounded_list: {
    broken: sound([c.text('{{ p.name }}', { loop: { list: 'catalog.garden', as: 'p' } })]),
    given: { records: withProducts(Array.from({ length: 9 }, (_, i) => product(`${i}`))) },
    whole: [
      sound([c.text('{{ p.name }}', { loop: { list: 'catalog.garden', as: 'p', at_most: 5 } })]),
      { records: withProducts(Array.from({ length: 9 }, (_, i) => product(`${i}`))) },
    ],
  },
  stale_source: {
    broken: sound([offers()]),
    given: { more: { sources: [{ name: 'Garden', root: 'catalog.garden', problem: 'is old' }] } },
    whole: [
      sound(),
      { more: { sources: [{ name: 'Garden', root: 'catalog.garden', problem: 'is old' }] } },
    ],
  },
  other_tags: { broken: sound([c.text('Hello %%first_name%%')]) },
  odd_link: { broken: sound([c.button('Go', 'https://https://shop.example/a')]) },
  empty_block: { broken: sound([c.button('', 'https://shop.example/a')]) },
  vague_link: { broken: sound([c.button('Click here', 'https://shop.example/a')]) },
  html_picture: {
    broken: sound([c.block('html', { source: '<img src="https://shop.example/a.png">' })]),
    whole: [
      sound([
        c.block('html', { source: '<img src="https://shop.example/a.png" alt="" width="300">' }),
      ]),
    ],
  },
  picture_gone: {
    broken: sound([picture('gone')]),
    given: { more: { pictures: [{ id: 'a', width: 600, height: 600, bytes: 1 }] } },
    whole: [
      sound([picture('a')]),
      { more: { pictures: [{ id: 'a', width: 600, height: 600, bytes: 1 }] } },
    ],
  },
  only_pictures: {
    broken: sound([], (t) => {
      t.sections[0] = c.section('All', [picture('a', 600)]);
    }),
  },
  currency_missing: {
    broken: sound([c.text('It comes to {{ cart.total }}.')]),
    whole: [sound([c.text('It comes to {{ money(cart.total) }}, or £{{ cart.total }}.')])],
  },
  small_text: {
    broken: sound([c.text('The small print', { size: 10 })]),
    whole: [sound([c.text('The small print', { size: 12 })])],
  },
  heading_levels: {
    broken: sound([
      c.block('heading', { text: 'One', level: 1 }),
      c.block('heading', { text: 'Three', level: 3 }),
    ]),
    whole: [
      sound([
        c.block('heading', { text: 'One', level: 1 }),
        c.block('heading', { text: 'Two', level: 2 }),
        c.block('heading', { text: 'Three', level: 3 }),
        c.block('heading', { text: 'Two again', level: 2 }),
      ]),
    ],
  },
  few_picks: {
    broken: sound([c.block('cards', { items: { list: 'picks.lately', as: 'p', at_most: 3 } })]),
    given: {
      records: people(4, (i) => ({ picks: { lately: PRODUCTS.slice(0, i === 1 ? 2 : 3) } })),
    },
    whole: [
      sound([c.block('cards', { items: { list: 'picks.lately', as: 'p', at_most: 3 } })]),
      { records: people(4, () => ({ picks: { lately: PRODUCTS } })) },
    ],
  },
  mail_programs: {
    broken: sound([
      c.block('html', { source: '<form><input type="text"><video src="a.mp4"></video></form>' }),
    ]),
    whole: [sound([c.block('html', { source: '<p>Words</p>' })])],
  },
};

test('every check has a mail that breaks it', () => {
  expect(Object.keys(BROKEN).sort()).toEqual(CHECKS.map(({ name }) => name).sort());
});

test('a sound mail has no findings', async () => {
  expect(await check(sound())).toEqual([]);
});

test.each(Object.entries(BROKEN))(
  '%s is found where it is wrong, and not where it is right',
  async (name, { broken, given, whole }) => {
    expect(await names(broken, given)).toContain(name);
    if (whole) expect(await names(...whole)).not.toContain(name);
  },
);

test('a check that is off for a template says nothing', async () => {
  const template = sound([], (t) => {
    t.envelope.preview_text = '';
    t.checks_off = [{ check: 'preview_blank', reason: 'A letter without one' }];
  });
  expect(await names(template)).not.toContain('preview_blank');
});

test('findings name how many people, and one of them', async () => {
  const records = people(5, (i) => (i === 3 ? { cart: { lines: [], total: 0 } } : {}));
  const found = (await check(sound([c.block('lines')]), { records })).find(
    (one) => one.check === 'empty_list',
  );
  expect(found).toMatchObject({
    people: 1,
    person: 4,
    repair: { put: { path: 'when', value: 'count(cart.lines) > 0' } },
  });
});

test('products that went are taken out in one click, and what is changed of them with them', async () => {
  const cards = Object.assign(
    offers(pickedLoop({ list: 'catalog.garden', as: 'p' }, ['A', 'GONE', 'C'])),
    {
      changes: [
        { sku: 'GONE', words: 'Lost' },
        { sku: 'C', words: 'Ours' },
      ],
    },
  );
  const found = await check(sound([cards]));
  const of = (name: string) => found.find((one) => one.check === name);
  expect(of('product_gone')).toMatchObject({
    message: expect.stringMatching(
      / names 1 product that is in no catalog any more: “GONE”/,
    ) as string,
    repair: {
      put: { path: 'items', value: pickedLoop({ list: 'catalog.garden', as: 'p' }, ['A', 'C']) },
    },
  });
  expect(of('change_unseen')).toMatchObject({
    severity: 'hint',
    repair: { put: { path: 'changes', value: [{ sku: 'C', words: 'Ours' }] } },
  });
});

/** What is repaired in one click: of the mail that breaks one of these nothing is left to say. Some need a mail of their own. */
const GONE_POT = product('A', { in_stock: false });
const REPAIRED: Record<string, (typeof BROKEN)[string] | undefined> = {
  ...{ leftover_words: BROKEN['leftover_words'], unsubscribe: BROKEN['unsubscribe'] },
  ...{ postal_address: BROKEN['postal_address'], condition_always: BROKEN['condition_always'] },
  ...{ shown_twice: BROKEN['shown_twice'], change_unseen: BROKEN['change_unseen'] },
  ...{ blank_tag: BROKEN['blank_tag'], empty_list: BROKEN['empty_list'] },
  ...{ unbounded_list: BROKEN['unbounded_list'], service_advert: BROKEN['service_advert'] },
  contrast: { broken: sound([c.text('Pale', { colour: '#eeeeee' })]) },
  contrast_dark: { broken: sound([c.text('Pale', { colour: '#eeeeee' })]) },
  out_of_stock: {
    broken: sound([offers({ where: 'product.price > 1' })]),
    given: {
      records: withProducts([GONE_POT, product('B')]),
      more: isPot('A', { in_stock: false }),
    },
  },
  insecure_link: BROKEN['insecure_link'],
  product_gone: {
    broken: sound([offers(pickedLoop({ list: 'catalog.garden', as: 'product' }, ['A', 'GONE']))]),
  },
};
test.each(Object.entries(REPAIRED))(
  '%s is gone after its repair, and the email is still one',
  async (name, wrong) => {
    if (!wrong) throw new Error(`Nothing breaks ${name}.`);
    const { broken, given } = wrong;
    const of = (all: readonly CheckFinding[]) => all.filter((one) => one.check === name);
    expect(of(await check(broken, given))).not.toEqual([]);
    let template = broken;
    let count = 0;
    const newId = () => `new${++count}`;
    for (let left = 5; left > 0; left--) {
      const repair = of(await check(template, given)).find((one) => one.repair)?.repair;
      if (!repair) break;
      const done = edit(template, repair.label, (draft) => repairTemplate(draft, repair, newId));
      if (!done) throw new Error(`The repair of ${name} changes nothing.`);
      template = done.template;
    }
    expect(of(await check(template, given))).toEqual([]);
    expect(readTemplate(JSON.parse(JSON.stringify(template)))).toMatchObject({ ok: true });
  },
);

test('a picture of the library weighs what is sent of it, not what its file does', async () => {
  const said = async (shown: object, width: number, bytes: number) => {
    const { src, alt } = picture('big');
    const mail = sound([c.block('picture', { src, alt, ...shown })]);
    const pictures = [{ id: 'big', width, height: width / 2, bytes }];
    const found = await check(mail, { more: { pictures } });
    return found.filter(({ check: name }) => name === 'heavy_picture').map((one) => one.message);
  };
  // Shown 300 wide, it is drawn 600 wide at most: a sixteenth of this file.
  expect(await said({ width: 300 }, 2_400, 2_700_000)).toEqual([]);
  // It fills what there is: twice 600 of 2,400, a quarter.
  expect(await said({}, 2_400, 2_700_000)).toEqual([]);
  expect((await said({}, 2_400, 6_000_000))[0]).toContain('weighs about 1.5 MB');
  expect((await said({}, 800, 1_200_000))[0]).toContain('weighs 1.2 MB');
});

test('an order line without anything engraved is no hole', async () => {
  const lines = c.block('lines', { properties: true });
  const records = people(4, () => ({
    cart: { lines: [{ sku: 'A', name: 'Pot', price: 1, properties: [] }] },
  }));
  expect(await names(sound([lines]), { records })).not.toContain('empty_list');
});

test('where picture and words of a card lead to one page, that is said once', async () => {
  const href = 'https://shop.house/pots';
  const cards = Object.assign(offers(), {
    fields: [
      { show: 'picture', src: '{{ product.image }}', alt: 'A pot', href },
      { show: 'words', text: '{{ product.name }}', weight: 'plain', href },
    ],
  });
  const found = await check(sound([cards]));
  expect(found.filter((one) => one.check === 'same_link')).toHaveLength(1);
});

test('a price that a card shows and few products have is told', async () => {
  const fields = [{ show: 'price', price: 'product.was_price' }];
  const found = await check(sound([Object.assign(offers(), { fields })]));
  expect(found.filter((one) => one.check === 'price_missing')).toMatchObject([
    { severity: 'warning', people: 4, path: 'fields.0.price' },
  ]);
});

test('a fallback that was only put there is told until it says something', async () => {
  const waiting = sound([c.text('In {{ person.city otherwise "…" }}.')]);
  const [found] = (await check(waiting)).filter((one) => one.check === 'leftover_words');
  expect(found?.message).toContain('waits for your words');
  const said = sound([c.text('In {{ person.city otherwise "town" }}.')]);
  expect(await names(said)).not.toContain('leftover_words');
});

test('an address without https is repaired where it stands in words', async () => {
  const link = (href: string) => ({
    ...{ type: 'doc' as const },
    content: [
      {
        type: 'paragraph' as const,
        content: [
          { type: 'text' as const, text: 'To ' },
          {
            type: 'text' as const,
            text: 'us',
            marks: [{ type: 'link' as const, attrs: { href } }],
          },
        ],
      },
    ],
  });
  const broken = sound([c.text(link('http://garden.house/a'))]);
  const repair = (await check(broken)).find((one) => one.check === 'insecure_link')?.repair;
  if (!repair) throw new Error('There is no repair.');
  const done = edit(broken, 'Repair', (draft) => repairTemplate(draft, repair, () => 'new'));
  expect(JSON.stringify(done?.template)).toContain('"https://garden.house/a"');
});

test('a code of a bare day ends with that day where the shop is', async () => {
  const coupons = reviveRecord({
    spring: { code: 'SPRING10', expires_at: '2026-11-23' },
  }) as Fields;
  // Six in the evening of the 23rd in Honolulu, and the 24th by UTC.
  const late = new Date('2026-11-24T04:00:00Z');
  const ends = async (zone: string) =>
    (
      await check(sound([c.text('Take {{ coupon.spring.code }}')]), {
        more: { coupons, now: late, zone },
      })
    ).find((one) => one.check === 'coupon_ends');
  expect(await ends('Pacific/Honolulu')).toMatchObject({
    ...{ severity: 'warning', message: expect.stringContaining('ends on 2026-11-23') as string },
  });
  expect(await ends('UTC')).toMatchObject({ severity: 'error' });
});

test('nobody in the audience is told, and breaks nothing', async () => {
  expect((await check(sound([offers()]), { records: [] })).map((one) => one.message)).toContain(
    'Nobody has the data that this email reads, so nobody can get it now.',
  );
});

test('whose language the words are not is counted among those who get the mail, the most first', async () => {
  const locales = ['de-DE', 'fr', 'de_AT', 'en-GB', 'en', 'tlh', '12', ''];
  const records = people(locales.length, (i) => ({
    person: { first_name: 'A', city: 'Y', locale: locales[i] },
  }));
  const [found] = (await check(sound(), { records })).filter((one) => one.check === 'language');
  expect(found).toMatchObject({ people: 4, person: 1 });
  expect(found?.message).toContain('4 of 8 people read German and French and Klingon');
});

test.each([
  ['the day before', new Day('2026-11-25'), 'error'],
  ['the very day, which is good until it is over', new Day('2026-11-26'), 'warning'],
  ['an instant that is past', new Date('2026-11-26T09:59:00Z'), 'error'],
  ['four days on', new Day('2026-11-30'), undefined],
])('a code that ends %s', async (_, expires_at, severity) => {
  const coupons = { spring: { code: 'SPRING10', expires_at } };
  const found = await check(sound([c.text('Take {{ coupon.spring.code }}')]), {
    more: { coupons },
  });
  const told = found.find((one) => one.check === 'coupon_ends');
  expect(told?.severity).toBe(severity);
  if (severity === 'error') expect(told?.message).toMatch(/ended on .*: it has expired\.$/);
});

test('contrast is that of WCAG', () => {
  expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21);
  expect(contrastOf('#777777', '#ffffff')).toBeCloseTo(4.48, 1);
  expect(contrastOf('#000000', '#ffffff', true)).toBeCloseTo(21);
});

test('words of somebody’s own HTML are held against what they stand on', async () => {
  const source = `
    <table bgcolor="#0b2b33"><tr><td style="color: white">Fine</td></tr>
      <tr><td style="color: rgb(30, 60, 70)">Sale until {{ today }}</td></tr></table>
    <p style="background: #ffffff none; color: silver">Pale</p>
    <p style="background: #eeeeee"><font color="#e8e8e8">Paler</font></p>
    <p style="color: {{ person.colour }}">Its colour is data</p>
    <p style="color: rgba(200, 200, 200, 0.2)">Seen through</p>`;
  const found = (await check(sound([{ kind: 'html', id: 'own', source } as never]))).filter(
    (one) => one.check === 'contrast',
  );
  expect(found.map(({ node, message }) => [node, message.split(' has ')[0]])).toEqual([
    ['own', '“Sale until {{ today }}” is hard to read in light: #1e3c46 on #0b2b33'],
    ['own', '“Pale” is hard to read in light: #c0c0c0 on #ffffff'],
    ['own', '“Paler” is hard to read in light: #e8e8e8 on #eeeeee'],
  ]);
});

test.each([
  ['mail.colour = "red"', /asks for mail\.colour, which an email does not have/],
  ['length(', /cannot be read/],
])('an expectation “%s” is told in words', async (formula, words) => {
  const template = sound([], (t) => (t.expectations = [{ formula }]));
  const found = (await check(template)).filter((one) => one.check === 'expectations');
  expect(found).toEqual([
    expect.objectContaining({ severity: 'error', message: expect.stringMatching(words) as string }),
  ]);
});

test('an unsubscribe link, or an address, that some people do not see is found, with how many', async () => {
  const foot = (more: object) =>
    blankTemplate(
      'T',
      'house',
      [
        c.section('Words', [c.text('Hello, good day.')]),
        c.section('Foot', [c.block('foot')], more),
      ],
      'post@shop.example',
    );
  const records = people(5, (i) => ({ cart: { lines: [], total: i } }));
  const found = async (template: Template) =>
    (await check(template, { records }))
      .filter(({ check: name }) => name === 'unsubscribe' || name === 'postal_address')
      .map(({ check: name, people: n, person }) => [name, n, person]);
  expect(await found(foot({}))).toEqual([]);
  expect((await found(foot({ when: 'cart.total >= 2' }))).sort()).toEqual([
    ['postal_address', 2, 1],
    ['unsubscribe', 2, 1],
  ]);
  const nowhere = people(3, () => ({ shop: { name: 'House', url: 'https://shop.example' } }));
  const blank = await check(foot({}), { records: nowhere });
  expect(blank.map(({ check: name }) => name)).toContain('postal_address');
});
