/** @jest-environment jsdom */
import fc from 'fast-check';
import { cutMail } from './mailSections';
import { showMail } from './showMail';

const VIEW = { width: 'wide', pictures: true, dark: false, asOf: '' } as const;

interface Part {
  id: string;
  inside: string;
}
const section = ({ id, inside }: Part) =>
  `<!--node ${id}--><!--[if mso]><table><![endif]--><div>${inside}</div><!--/node-->`;
const mailOf = (subject: string, parts: readonly Part[], preview = subject) =>
  `<!doctype html><html lang="en"><head><title>${subject}</title><style>p{margin:0}</style></head><body>${preview === '' ? '' : `<div class="preview" style="display:none">${preview}</div>`}<div aria-label="${subject}">${parts.map(section).join('')}\n</div></body></html>`;

/** A frame's document, as it is before anything is shown in it. */
const empty = () => document.implementation.createHTMLDocument('');
function shown(
  ...mails: { html: string; formulas?: readonly string[]; view?: object }[]
): Document {
  const target = empty();
  for (const { html, formulas = [], view = {} } of mails)
    showMail(target, html, formulas, { ...VIEW, ...view })?.();
  return target;
}
/** Whether two documents are alike, whatever the order of attributes; else the first as text, to be read. */
const alike = (one: Document, other: Document) =>
  one.documentElement.isEqualNode(other.documentElement) || one.documentElement.outerHTML;

const inside = fc.oneof(
  fc.constantFrom(
    '<p>Hello</p>',
    '<p>Hello <b>Maud</b></p>',
    '<table><tbody><tr><td>1</td></tr></tbody></table>',
    '<table><tbody><tr><td>1</td></tr><tr><td>2</td></tr></tbody></table>',
    '<!--node t--><p>Inner</p><!--/node-->',
    'words alone',
    '',
  ),
  fc
    .integer({ min: 1, max: 4 })
    .map(
      (n) => `<a href="https://s.example/${n}">Go</a><img src="https://s.example/${n}.png" alt="">`,
    ),
  fc.nat(2).map((n) => `<span data-value="${n}">£${n}</span>`),
);
const parts = fc.uniqueArray(fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd', 'e'), inside }), {
  selector: ({ id }) => id,
  maxLength: 5,
});
const mail = fc.record({
  html: fc
    .tuple(fc.constantFrom('One', 'Two'), parts)
    .map(([subject, all]) => mailOf(subject, all)),
  formulas: fc.constantFrom(['x', 'y', 'z'], ['x', 'y * 2', 'z']),
  view: fc.record({ pictures: fc.boolean(), dark: fc.boolean() }),
});

test('whatever was shown before, a mail looks as if it were the first', () => {
  fc.assert(
    fc.property(fc.array(mail, { minLength: 1, maxLength: 6 }), (mails) => {
      const last = mails.at(-1);
      if (last) expect(alike(shown(...mails), shown(last))).toBe(true);
    }),
    { numRuns: 120 },
  );
});

test('what is left for later stands as it was, and is there when it is called', () => {
  fc.assert(
    fc.property(mail, mail, fc.subarray(['a', 'b', 'c', 'd', 'e']), (one, two, late) => {
      const target = shown({ ...one, view: VIEW });
      const before = target.body.cloneNode(true) as HTMLElement;
      const rest = showMail(target, two.html, two.formulas, VIEW, (id) => late.includes(id));
      const at = (body: ParentNode, id: string) => {
        const cut = cutMail((body as HTMLElement).innerHTML);
        return cut?.sections.find((section) => section.id === id)?.html;
      };
      if (rest && one.formulas === two.formulas)
        expect(late.some((id) => at(target.body, id) === at(before, id))).toBe(true);
      rest?.();
      expect(alike(target, shown({ ...two, view: VIEW }))).toBe(true);
    }),
    { numRuns: 100 },
  );
});

test('after any edits of the envelope and the body, the frame is what a fresh one is', () => {
  const envelope = fc.record({
    subject: fc.constantFrom('One', 'Two', ''),
    preview: fc.constantFrom('', 'H', 'Hello', '&lt;b&gt;'),
  });
  const edit = fc.record({ envelope, parts, dark: fc.boolean() });
  fc.assert(
    fc.property(fc.array(edit, { minLength: 2, maxLength: 8 }), (edits) => {
      const target = empty();
      for (const {
        envelope: { subject, preview },
        parts: body,
        dark,
      } of edits) {
        const html = mailOf(subject, body, preview);
        showMail(target, html, [], { ...VIEW, dark })?.();
        expect(alike(target, shown({ html, view: { dark } }))).toBe(true);
      }
    }),
    { numRuns: 120 },
  );
});

test('the first letter of a preview text hides nothing', () => {
  const body = [{ id: 'a', inside: '<p>Words</p>' }];
  const target = shown({ html: mailOf('S', body, '') });
  const words = target.querySelector('p');
  showMail(target, mailOf('S', body, 'H'), [], VIEW);
  expect(target.querySelector('p')).toBe(words);
  expect(words?.closest('[style*="display:none"]')).toBeNull();
});

test('of a long mail that is the first, the beginning is seen before the rest, which changes nothing in it', () => {
  const long = Array.from({ length: 60 }, (_, i) => ({
    id: `s${i}`,
    inside: `<p>${String(i).padStart(3, '0')}</p><p>${'words '.repeat(300)}</p>`,
  }));
  const html = mailOf('Long', long);
  const target = empty();
  const rest = showMail(target, html, [], VIEW);
  const seen = target.querySelectorAll('div > div').length;
  expect(seen).toBeGreaterThan(10);
  expect(seen).toBeLessThan(40);
  const first = target.querySelector('p');
  rest?.();
  expect(target.querySelectorAll('div > div')).toHaveLength(60);
  expect(target.querySelector('p')).toBe(first);
  const whole = empty();
  showMail(whole, mailOf('Long', long.slice(0, 2)), [], VIEW);
  showMail(whole, html, [], VIEW);
  expect(alike(target, whole)).toBe(true);
  // Before the rest has come, another mail may be shown.
  const other = empty();
  showMail(other, html, [], VIEW);
  showMail(other, mailOf('Short', long.slice(3, 5)), [], VIEW);
  expect(alike(other, shown({ html: mailOf('Short', long.slice(3, 5)) }))).toBe(true);
});

test('a section that stays as it is keeps its nodes, and so does a picture in one that changes', () => {
  const picture = '<img src="https://s.example/1.png" alt="">';
  const one = [
    { id: 'a', inside: `<p>Old</p>${picture}` },
    { id: 'b', inside: '<p>Stays</p>' },
  ];
  const two = [
    { id: 'c', inside: '<p>New</p>' },
    { id: 'a', inside: `<p>Changed</p>${picture}` },
    { id: 'b', inside: '<p>Stays</p>' },
  ];
  const target = shown({ html: mailOf('S', one) });
  const [image, stays] = [target.querySelector('img'), target.querySelectorAll('p')[1]];
  showMail(target, mailOf('S', two), [], VIEW);
  expect(target.querySelector('img')).toBe(image);
  expect(target.querySelectorAll('p')[2]).toBe(stays);
  expect([...target.querySelectorAll('p')].map((p) => p.textContent)).toEqual([
    'New',
    'Changed',
    'Stays',
  ]);
});

test('nothing of a mail runs or loads by being taken in', () => {
  const html = mailOf('S', [{ id: 'a', inside: '<p>Quiet</p>' }]);
  const target = shown({ html });
  const bad = mailOf('S', [
    { id: 'a', inside: '<p onclick="x()">Quiet</p><script>document.title="ran"</script>' },
  ]);
  showMail(target, bad, [], VIEW);
  expect(target.title).toBe('S');
});

describe('a mail taken apart', () => {
  it('is whole again when it is put together', () => {
    fc.assert(
      fc.property(parts, (all) => {
        const html = mailOf('S', all);
        const cut = cutMail(html);
        if (all.length === 0) return expect(cut).toBeNull();
        expect(cut?.sections.map(({ id }) => id)).toEqual(all.map(({ id }) => id));
        expect(`${cut?.before}${cut?.sections.map((one) => one.html).join('')}${cut?.after}`).toBe(
          html,
        );
      }),
    );
  });

  it.each([
    [
      'something between its sections',
      `${section({ id: 'a', inside: '' })} x ${section({ id: 'b', inside: '' })}`,
    ],
    ['a section twice', section({ id: 'a', inside: '' }).repeat(2)],
    ['a section that does not end', '<!--node a--><div>'],
    ['an end without a section', '<!--/node-->'],
  ])('is taken as one where there is %s', (_, html) => {
    expect(cutMail(html)).toBeNull();
  });
});
