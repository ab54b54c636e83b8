import fc from 'fast-check';
import { build, type Program } from '../build';
import type { Fields } from '../formula';
import { prepare, Tally } from '../render';
import { blankTemplate, composer, countedIds, type Section, type Template } from '../template';
import { ImpactCounter } from '.';
import { differing } from './differing';
import { seenParts } from './impact';

// What an edit changes is found by filling only what differs. It must be what filling all of it finds.

const now = new Date('2026-11-26T10:00:00Z');
const c = composer(countedIds());
const WORDS = ['town', 'name', 'total', 'lines'];
const section = (i: number): Section =>
  c.section(`S${i}`, [
    c.text(`Part ${i}: {{ ${WORDS[i % 4]} otherwise "nobody" }}`, { id: `words${i}` }),
    c.text('Each {{ l.what }}', { id: `lines${i}`, loop: { list: 'lines', as: 'l' } }),
    { ...c.text('Gift', { id: `gift${i}`, when: 'total >= 50' }), else: c.text('Plain') },
    c.button('Go', `https://s.example/{{ town }}/${i}`, { id: `go${i}` }),
  ]);
const template = blankTemplate('T', 's', [0, 1, 2, 3].map(section));
template.envelope.subject = 'Hello {{ name }}';

type Edit = (template: Template, at: number) => void;
const blocksOf = (t: Template, at: number) =>
  t.sections[at % t.sections.length]?.columns[0]?.blocks ?? [];
const EDITS: Record<string, Edit> = {
  words(t, at) {
    const [first] = blocksOf(t, at);
    if (first) Object.assign(first, { text: c.text('Other words').text });
  },
  // A formula more in front moves the numbers of all others.
  tag(t) {
    blocksOf(t, 0).unshift(c.text('{{ town otherwise "somewhere" }}', { id: 'first' }));
  },
  condition(t, at) {
    const [first] = blocksOf(t, at);
    if (first) Object.assign(first, { when: 'name is filled' });
  },
  gone: (t, at) => void t.sections.splice(at % t.sections.length, 1),
  twice: (t, at) => void t.sections.push(section(4 + at)),
  moved: (t) => void t.sections.reverse(),
  subject: (t) => void (t.envelope.subject = 'Hello'),
  colour: (t) => void (t.style.primary = '#123456'),
  nobody: (t) => void (t.envelope.only_if = 'total > 20'),
};

const record = fc.record(
  {
    town: fc.constantFrom('', 'York', 'Ely'),
    name: fc.constantFrom('', 'Ada'),
    total: fc.integer({ min: 0, max: 100 }),
    lines: fc.array(fc.record({ what: fc.constantFrom('', 'Pot') }), { maxLength: 3 }),
  },
  { requiredKeys: [] },
);

/** Fills all of a program, as the canvas does. */
function wholeOf(program: Program): (record: Fields) => {
  all: string;
  parts: Map<string, string>;
} {
  const fill = prepare(program, { tally: new Tally(), canvas: true, text: false });
  return (one) => {
    const { mail, held } = fill(one, { asOf: now });
    const { from, subject, preview_text, html } = mail;
    const parts = seenParts(html);
    return { all: JSON.stringify([from, subject, preview_text, [...parts], held]), parts };
  };
}

test('filling what differs finds what filling everything finds', async () => {
  const before = (await build(template)).program;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.constantFrom(...Object.keys(EDITS)), fc.nat(3)), {
        minLength: 1,
        maxLength: 3,
      }),
      fc.array(record, { minLength: 1, maxLength: 4 }),
      async (edits, records) => {
        const edited = structuredClone(template);
        for (const [name, at] of edits) EDITS[name]?.(edited, at);
        const after = (await build(edited)).program;
        const counter = new ImpactCounter(before, after);
        const old = wholeOf(before);
        const fresh = wholeOf(after);
        let changed = 0;
        const nodes = new Set<string>();
        records.forEach((one, i) => {
          counter.look(i, one as Fields, one as Fields, now);
          const a = old(one as Fields);
          const b = fresh(one as Fields);
          if (a.all !== b.all) changed++;
          for (const node of new Set([...a.parts.keys(), ...b.parts.keys()]))
            if (node !== '' && a.parts.get(node) !== b.parts.get(node)) nodes.add(node);
        });
        const impact = counter.result();
        expect(impact.changed).toBe(changed);
        const told = impact.groups.flatMap((group) => group.nodes.map(({ node }) => node));
        expect(new Set(told.filter((node) => node !== ''))).toEqual(nodes);
      },
    ),
    { numRuns: 60 },
  );
}, 60_000);

test('of an edit of words in one section, only that is filled', async () => {
  const before = (await build(template)).program;
  const edited = structuredClone(template);
  EDITS['tag']?.(edited, 0);
  const after = (await build(edited)).program;
  const size = ({ html }: Program) => JSON.stringify(html).length;
  const [old, fresh] = differing(before, after);
  expect(size(old)).toBeLessThan(size(before) / 3);
  expect(size(fresh)).toBeLessThan(size(after) / 3);
  const [none] = differing(before, before);
  expect(none.html).toEqual([]);
});

test('where parts changed places, or a list leaves out what stands above it, all is filled', async () => {
  const before = (await build(template)).program;
  const moved = structuredClone(template);
  EDITS['moved']?.(moved, 0);
  const after = (await build(moved)).program;
  expect(differing(before, after)).toEqual([before, after]);
  const once = structuredClone(template);
  const list = blocksOf(once, 1)[1];
  if (list) Object.assign(list, { loop: { list: 'lines', as: 'l', once: true } });
  const careful = (await build(once)).program;
  expect(differing(careful, careful)).toEqual([careful, careful]);
});

test('a formula at the same number that says something else is a difference, wherever an operation names it', async () => {
  const { program } = await build(template);
  const loop = { list: 0, as: 'l', where: 0, by: 0, atMost: 2, fill: 0 };
  const html = (given: object): Program['html'] => [
    { op: 'loop', loop: { ...loop, ...given }, node: 'n', path: 'loop', body: ['x'] },
  ];
  for (const name of ['list', 'where', 'by', 'fill']) {
    const before = { ...program, formulas: ['lines', 'others'], html: html({ [name]: 1 }) };
    const after = { ...before, formulas: ['lines', 'none'] };
    expect(differing(before, after)).toEqual([before, after]);
    expect(differing(before, before)[0].html).toEqual([]);
  }
});

async function impactOf(edited: Template, people: Fields[]) {
  const [before, after] = [(await build(template)).program, (await build(edited)).program];
  const counter = new ImpactCounter(before, after);
  people.forEach((one, i) => counter.look(i, one, one, now));
  return counter.result();
}
const ADA = { town: 'York', name: 'Ada', total: 20, lines: [] } as Fields;

test('what nobody sees is no change: white space, an empty block, a list without members', async () => {
  const edited = structuredClone(template);
  blocksOf(edited, 0).push(
    c.text('', { id: 'empty' }),
    c.text('More: {{ l.what }}', { id: 'more', loop: { list: 'lines', as: 'l' } }),
  );
  blocksOf(edited, 1).push(c.block('html', { source: '<p   class="x"\n></p>\n\n', id: 'raw' }));
  expect(await impactOf(edited, [ADA])).toMatchObject({ people: 1, changed: 0, groups: [] });
  const some = await impactOf(edited, [ADA, { ...ADA, lines: [{ what: 'Pot' }] }]);
  expect(some).toMatchObject({ people: 2, changed: 1 });
  expect(some.groups[0]?.nodes).toEqual([{ node: 'more', change: 'appears' }]);
});

test('a space, a line and a picture are seen, though there are no words in them', async () => {
  for (const block of [
    c.block('spacer', { height: 24 }),
    c.block('divider'),
    c.block('picture', { src: 'https://s.example/a.png', alt: '' }),
  ]) {
    const edited = structuredClone(template);
    blocksOf(edited, 2).push(block);
    const { changed, groups } = await impactOf(edited, [ADA]);
    expect([changed, groups[0]?.nodes]).toEqual([1, [{ node: block.id, change: 'appears' }]]);
  }
});
