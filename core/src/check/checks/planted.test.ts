import type { Block, Template } from '../../template';
import { c, check, people, product, sound } from './testingChecks';

// Faults that people make, planted one at a time into a sound mail: each is found by the check whose matter it is.

const SHOP = 'https://shop.example/a';
const envelope = (field: 'subject' | 'preview_text' | 'from_name', words: string) =>
  sound([], (t) => (t.envelope[field] = words));
const words = (text: string) => sound([c.text(text)]);
const html = (source: string) => sound([c.block('html', { source })]);
const button = (label: string, href: string) => sound([c.button(label, href)]);
const link = (href: string, text = 'Our pots') =>
  sound([
    c.text({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'See ' },
            { type: 'text', text, marks: [{ type: 'link', attrs: { href } }] },
          ],
        },
      ],
    }),
  ]);
const heading = (text: string, level: 1 | 2 | 3): Block => c.block('heading', { text, level });
const image = (more: object = {}) =>
  c.block('picture', { src: `${SHOP}.png`, alt: 'Pots on a bench', width: 300, ...more });
const only = (blocks: Block[]) =>
  sound([], (t) => {
    t.sections[0] = c.section('All', blocks);
  });

const PLANTED: [fault: string, check: string, Template][] = [
  ['double percent signs', 'other_tags', words('Hello %%first_name%%,')],
  ['single percent signs', 'other_tags', words('Hello %FIRST_NAME%,')],
  ['one brace', 'other_tags', words('Hello {first_name},')],
  ['a dollar and a brace', 'other_tags', words('Hello ${firstName},')],
  ['dollars', 'other_tags', words('Hello $first_name$,')],
  ['bracketed words', 'other_tags', words('Hello [First name],')],
  ['double brackets', 'other_tags', words('Hello [[name]],')],
  ['a bar and a star', 'other_tags', words('Hello *|NAME|*,')],
  ['an angle and a percent sign', 'other_tags', words('Hello <%= name %>,')],
  ['a brace and a percent sign', 'other_tags', words('{% if vip %} Hello')],
  ['hashes', 'other_tags', words('Hello ##name##,')],
  ['at signs', 'other_tags', words('Hello @@name@@,')],
  ['angles', 'other_tags', words('Hello <first name>,')],
  ['one in the subject', 'other_tags', envelope('subject', 'A word, *|FNAME|*')],
  ['one in the preview text', 'other_tags', envelope('preview_text', 'For you, [NAME]')],
  ['one in HTML', 'other_tags', html('<p>Hello %%name%%</p>')],
  ['one on a button', 'other_tags', button('Go, {name}', SHOP)],

  ['a beginning twice', 'odd_link', button('Go', 'https://https://shop.example')],
  ['a comma for a dot', 'odd_link', button('Go', 'https://shop,example/a')],
  ['a space in a host', 'odd_link', link('https://shop .example/a')],
  ['no scheme', 'odd_link', link('www.shop.example/a')],
  ['nobody to write to', 'odd_link', link('mailto:')],
  ['half an email address', 'odd_link', link('mailto:hello')],
  ['no number to call', 'odd_link', link('tel:')],
  ['a host without a dot', 'odd_link', html('<a href="https://shop/a">Our pots</a>')],
  ['two dots in a host', 'odd_link', button('Go', 'https://shop..example/a')],
  ['no link on words', 'empty_link', link('')],
  ['no link in HTML', 'empty_link', html('<a href="">Our pots</a>')],
  ['no link on a button', 'empty_link', button('Go', '')],
  ['a link to nowhere', 'hash_link', button('Go', 'https://shop.example/#')],
  ['a button without a label', 'empty_block', button(' ', SHOP)],
  ['a coupon without a code', 'empty_block', sound([c.block('coupon', { code: '' })])],
  ['a coupon worth nothing', 'empty_block', sound([c.block('coupon', { value: ' ' })])],
  ['a heading without words', 'empty_block', sound([heading('', 2)])],

  ['filler text', 'leftover_words', words('Lorem ipsum dolor sit amet')],
  ['a subject left over', 'leftover_words', envelope('subject', 'Your subject here')],
  ['a preview text left over', 'leftover_words', envelope('preview_text', 'TODO: preview')],
  ['a sender left over', 'leftover_words', envelope('from_name', 'TBD')],
  ['a label left over', 'leftover_words', button('Button text here', SHOP)],
  ['words of a new block', 'leftover_words', words('Write here.')],
  ['a new heading', 'leftover_words', sound([heading('A heading', 2)])],
  ['words left over in HTML', 'leftover_words', html('<p>Your text here</p>')],
  ['conditions left over', 'leftover_words', sound([c.block('coupon', { terms: 'xxxx' })])],

  ['a picture in HTML without alt text', 'html_picture', html(`<img src="${SHOP}.png">`)],
  [
    'a picture in HTML that is too wide',
    'html_picture',
    html(`<img src="${SHOP}.png" alt="Pots" width="1200">`),
  ],
  [
    'a picture that its style makes too wide',
    'html_picture',
    html(`<img src="${SHOP}.png" alt="Pots" style="width:900px">`),
  ],
  [
    'a picture that left the library',
    'picture_gone',
    sound([image({ src: '{{ shop.pictures }}/library/gone/600x600' })]),
  ],
  ['a file name for alt text', 'alt_text', sound([image({ alt: 'banner-final.png' })])],
  ['a camera’s name for alt text', 'alt_text', sound([image({ alt: 'IMG_2034' })])],
  ['no alt text', 'alt_text', sound([image({ alt: '' })])],
  ['pictures alone', 'only_pictures', only([image(), image()])],
  [
    'pictures alone in HTML',
    'only_pictures',
    only([c.block('html', { source: '<img src="a" alt="">' })]),
  ],

  ['a total without a currency', 'currency_missing', words('It comes to {{ cart.total }}.')],
  ['a rounded price', 'currency_missing', words('Only {{ number(cart.total, 2) }}.')],
  ['a price in the subject', 'currency_missing', envelope('subject', 'Yours for {{ cart.total }}')],
  ['“click here” on a button', 'vague_link', button('Click here', SHOP)],
  ['“here” in running text', 'vague_link', link(SHOP, 'here')],
  ['two titles', 'heading_levels', sound([heading('One', 1), heading('Another', 1)])],
  ['a skipped level', 'heading_levels', sound([heading('One', 1), heading('Small', 3)])],
  ['small print', 'small_text', sound([c.text('All prices with tax', { size: 10 })])],
  ['small print in HTML', 'small_text', html('<p style="font-size:9px">With tax</p>')],
  [
    'small text throughout',
    'small_text',
    sound([], (t) => (t.style = { ...t.style, text_size: 11 })),
  ],
];

const found = async (template: Template) =>
  (await check(template, { more: { pictures: [] } })).map(({ check: name }) => name);

test('there are at least sixty of them', () => {
  expect(PLANTED.length).toBeGreaterThanOrEqual(60);
});

test.each(PLANTED)('%s: %s', async (_, name, template) => {
  expect(await found(template)).toContain(name);
});

/** What looks like one of them and is none. */
const FINE: [string, Template][] = [
  ['percent signs of prices', words('Now 20% off, and 30% off pots for members.')],
  ['dollars of prices', words('From $5 to $9, or $12 a year.')],
  ['a hash and an at sign', words('Plot #4 and #5, or write to hello@shop.example')],
  ['a name with marks', words('Rock & roll (live), *new* and _old_: 3 < 4 > 2')],
  ['a number in brackets', words('As the book says [1], and [2].')],
  ['emphasis', words('**New** and ~~old~~ ways')],
  ['a comment in HTML', html('<!-- <p style="font-size:9px">[name]</p> --><p>Words</p>')],
  ['good addresses', link('https://user@shop.example:8080/a?b=c,d&e=f#g')],
  ['an email address', link('mailto:hello@shop.example?subject=Pots')],
  ['a number to call', link('tel:+44 20 7946 0000')],
  ['an address that data complete', link('https://shop.example/{{ person.first_name }}')],
  ['an address of the data', link('{{ shop.url }}')],
  ['a price with its sign', words('It comes to £{{ cart.total }}.')],
  ['a picture beside words', sound([image(), c.text('These stand on our own bench.')])],
  [
    'levels up and down',
    sound([heading('One', 1), heading('Two', 2), heading('Three', 3), heading('Two', 2)]),
  ],
];
test.each(FINE)('nothing is said of %s', async (_, template) => {
  expect(await found(template)).toEqual([]);
});

test('nothing is said of what is taken out of the email anyway', async () => {
  const source = '<script>var a = "%%name%%"</script><p>Words</p>';
  expect(await found(html(source))).not.toContain('other_tags');
});

test('an address that data make odd is told with its person', async () => {
  const records = people(3, (i) => ({
    shop: {
      url: i === 2 ? 'https://https://shop.example' : 'https://shop.example',
      address: '1 Lane',
    },
    catalog: { garden: [product('A')] },
  }));
  const all = await check(sound([c.button('Go', '{{ shop.url }}')]), { records });
  expect(all.find(({ check: name }) => name === 'odd_link')).toMatchObject({
    people: 1,
    person: 3,
  });
});
