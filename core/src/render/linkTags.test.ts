import fc from 'fast-check';
import { build } from '../build';
import { blankTemplate, composer, countedIds } from '../template';
import { prepare } from './prepare';
import { withLinkTags } from './linkTags';

const TAGS = [
  { parameter: 'source', value: 'Quillmoss & Sons' },
  { parameter: 'name', value: '' },
];

describe('link tags', () => {
  it.each([
    ['https://q.example/a', 'https://q.example/a?source=Quillmoss%20%26%20Sons'],
    ['https://q.example/a?b=1#c', 'https://q.example/a?b=1&source=Quillmoss%20%26%20Sons#c'],
    ['https://q.example/a?', 'https://q.example/a?source=Quillmoss%20%26%20Sons'],
    ['https://q.example/?source=own', 'https://q.example/?source=own'],
    ['mailto:a@q.example', 'mailto:a@q.example'],
    ['tel:+441', 'tel:+441'],
  ])('of %s', (address, expected) => {
    expect(withLinkTags(address, TAGS)).toBe(expected);
  });

  it('are read back by anybody who reads addresses, and the rest stays as it was', () => {
    fc.assert(
      fc.property(
        fc.webUrl({ withQueryParameters: true, withFragments: true }),
        fc.string({ unit: 'binary', minLength: 1 }),
        (address, value) => {
          const before = new URL(address);
          fc.pre(!before.searchParams.has('medium'));
          const after = new URL(withLinkTags(address, [{ parameter: 'medium', value }]));
          expect(after.searchParams.get('medium')).toBe(value.toWellFormed());
          expect(after.hash).toBe(before.hash);
          expect(after.pathname).toBe(before.pathname);
          for (const [name, one] of before.searchParams)
            expect(after.searchParams.getAll(name)).toContain(one);
        },
      ),
    );
  });

  it('stand in all links of a mail but the recipient’s own, in HTML and text alike', async () => {
    const { button, text, section } = composer(countedIds());
    const template = {
      ...blankTemplate('Cart', 'quillmoss-gb', []),
      link_tags: [
        { parameter: 'source', value: 'mail' },
        { parameter: 'who', value: '{{ person.first_name }}' },
      ],
      sections: [
        section('All', [
          button('Back', 'https://q.example/fixed'),
          button('One', '{{ line.url }}', { loop: { list: 'cart.lines', as: 'line' } }),
          button('Leave', '{{ links.unsubscribe }}'),
          text('Words'),
        ]),
      ],
    };
    const { program, findings } = await build(template);
    expect(findings).toEqual([]);
    const record = {
      person: { first_name: 'Ada' },
      cart: { lines: [{ url: 'https://q.example/p?a=1&b=2', first_name: 'not her' }] },
      links: { unsubscribe: 'https://home.example/mail/unsubscribe/x' },
    };
    const { mail } = prepare(program)(record, { asOf: new Date('2026-11-26T10:00:00Z') });
    expect(mail.html).toContain('href="https://q.example/fixed?source=mail&amp;who=Ada"');
    expect(mail.html).toContain(
      'href="https://q.example/p?a=1&amp;b=2&amp;source=mail&amp;who=Ada"',
    );
    expect(mail.html).toContain('href="https://home.example/mail/unsubscribe/x"');
    expect(mail.text).toContain('https://q.example/fixed?source=mail&who=Ada');
    const plain = await build(blankTemplate('Cart', 'quillmoss-gb', template.sections));
    expect(prepare(plain.program)(record, { asOf: new Date(0) }).mail.html).toContain(
      'href="https://q.example/fixed"',
    );
  });
});
