import fc from 'fast-check';
import { build } from '../build';
import type { Fields } from '../formula';
import { prepare } from '../render';
import { blankTemplate, composer, countedIds, nodeNames, type Template } from '../template';
import {
  addFigures,
  addImpact,
  bitsOf,
  coverageOf,
  groupBy,
  ImpactCounter,
  mostDifferent,
  sayVariant,
  Surveyor,
  topicOf,
  usualBits,
  type Survey,
} from '.';

const now = new Date('2026-11-26T10:00:00Z');
const c = composer(countedIds());
const template = blankTemplate('T', 's', [
  c.section('Words', [
    c.text('[{{ town }}]', { id: 'town' }),
    c.text('Hello {{ name otherwise "NOBODY" }}', { id: 'hello' }),
    {
      ...c.text('GIFT', { id: 'gift', when: 'total >= 50' }),
      else: c.text('PLAIN', { id: 'plain' }),
    },
    c.text('LINE {{ l.what otherwise "THING" }}', {
      id: 'lines',
      loop: { list: 'lines', as: 'l' },
    }),
    c.button('Go', '{{ link }}', { id: 'go' }),
  ]),
]);
template.envelope.subject = 'A word';

const record = fc.record(
  {
    town: fc.constantFrom('', ' ', 'York', 'Ely'),
    name: fc.constantFrom('', 'Ada', 'Bo'),
    total: fc.integer({ min: 0, max: 100 }),
    lines: fc.array(fc.record({ what: fc.constantFrom('', 'Pot', 'Bean') }), { maxLength: 9 }),
    link: fc.constantFrom('https://s.example/a', 'javascript:1', ''),
  },
  { requiredKeys: [] },
);

/** The structure of a mail as somebody would read it from its HTML, without knowing how it was made. */
function structureOf(html: string): string {
  const text = html.replace(/<style[\s\S]*?<\/style>/g, '').replace(/<[^>]*>/g, '\n');
  const town = /\[\s*([^\]]*?)\s*\]/.exec(text)?.[1] ?? '';
  const lines = [...text.matchAll(/LINE (\S+)/g)].map(([, what]) => what);
  const band = lines.length < 4 ? lines.length : lines.length < 7 ? 4 : 7;
  return JSON.stringify([
    town === '',
    text.includes('NOBODY'),
    text.includes('GIFT'),
    text.includes('PLAIN'),
    band,
    lines.includes('THING'),
    lines.some((what) => what !== 'THING'),
    html.includes('href="https://s.example/a"'),
  ]);
}

async function surveyorOf(of: Template = template) {
  const { program } = await build(of, { keepsAddresses: true });
  return { program, make: () => new Surveyor(of, program, { expectations: ['mail.size > 0'] }) };
}
const surveyed = (make: () => Surveyor, records: readonly Fields[], from = 1): Survey => {
  const surveyor = make();
  records.forEach((one, i) => surveyor.look(from + i, one, now));
  return surveyor.survey();
};

test('grouping by what was decided is grouping by what can be read in the mail', async () => {
  const { make } = await surveyorOf();
  fc.assert(
    fc.property(fc.array(record, { minLength: 2, maxLength: 40 }), (records) => {
      const byKey = new Map<string, Set<string>>();
      const byStructure = new Map<string, Set<string>>();
      records.forEach((one, i) => {
        const surveyor = make();
        const { html } = surveyor.look(i, one as Fields, now);
        const [variant] = surveyor.survey().variants;
        const structure = structureOf(html);
        const key = variant?.key ?? '';
        byKey.set(key, (byKey.get(key) ?? new Set()).add(structure));
        byStructure.set(structure, (byStructure.get(structure) ?? new Set()).add(key));
      });
      for (const one of [...byKey.values(), ...byStructure.values()]) expect(one.size).toBe(1);
    }),
    { numRuns: 60 },
  );
});

test('mails have one digest just where they are the same mail', async () => {
  const { program } = await surveyorOf();
  const fill = prepare(program);
  fc.assert(
    fc.property(fc.array(record, { minLength: 1, maxLength: 12 }), (records) => {
      const surveyor = new Surveyor(template, program, { digests: true });
      records.forEach((one, i) => surveyor.look(i, one as Fields, now));
      const { digests = [] } = surveyor.survey();
      const mails = records.map((one) => {
        const { mail } = fill(one as Fields, { asOf: now });
        return `${mail.subject}\n${mail.html}`;
      });
      mails.forEach((mail, i) => {
        expect(digests[3 * i]).toBe(i);
        expect(digests[3 * i + 1] === digests[1]).toBe(mail === mails[0]);
      });
    }),
  );
});

test('as of the time before a mail has the digest that it had then, whatever the date is now', async () => {
  const dated = blankTemplate('T', 's', [
    c.section('Words', [
      c.text('{{ town }} on {{ date(today, "d MMMM") }}, {{ date(now, "HH:mm") }}'),
    ]),
  ]);
  const { program } = await build(dated);
  const look = (town: string, at: Date, digests: boolean | Date) => {
    const surveyor = new Surveyor(dated, program, { digests });
    surveyor.look(7, { town }, at);
    return surveyor.survey().digests ?? [];
  };
  const later = new Date('2026-11-29T18:30:00Z');
  const [, before] = look('York', now, true);
  const same = look('York', later, now);
  expect(same[1]).not.toBe(before);
  expect(same[2]).toBe(before);
  const other = look('Ely', later, now);
  expect(other[2]).not.toBe(before);
});

test('figures of groups keep the digests of both; where one has none, none are told', async () => {
  const { program, make } = await surveyorOf();
  const [one, other] = [0, 1].map((person) => {
    const surveyor = new Surveyor(template, program, { digests: true });
    surveyor.look(person, { town: 'York' }, now);
    return surveyor.survey();
  });
  if (!one || !other) throw new Error('There are two.');
  expect(addFigures(one, other).digests).toEqual([
    ...(one.digests ?? []),
    ...(other.digests ?? []),
  ]);
  const without = make();
  without.look(2, {}, now);
  expect(addFigures(one, without.survey()).digests).toBeUndefined();
});

test('variants add up to the people, however they are cut and grouped', async () => {
  const { make } = await surveyorOf();
  fc.assert(
    fc.property(
      fc.array(record, { maxLength: 40 }),
      fc.nat(40),
      fc.func(fc.boolean()),
      (records, at, counts) => {
        const whole = surveyed(make, records as Fields[]);
        const first = surveyed(make, records.slice(0, at) as Fields[]);
        const second = surveyed(make, records.slice(at) as Fields[], at + 1);
        const added = addFigures(first, second);
        const sorted = (one: { variants: Survey['variants'] }) =>
          [...one.variants].sort((a, b) => (a.key < b.key ? -1 : 1));
        expect(sorted(added)).toEqual(sorted(whole));
        expect(added.facts).toEqual(whole.facts);
        const groups = groupBy(whole.variants, counts);
        expect(groups.reduce((sum, { people }) => sum + people, 0)).toBe(records.length);
      },
    ),
    { numRuns: 60 },
  );
});

test('coverage counts who reaches each node and outcome', async () => {
  const { make } = await surveyorOf();
  const survey = surveyed(make, [
    { total: 60, name: 'Ada', lines: [{ what: 'Pot' }], town: 'York' },
    { total: 60, lines: [] },
    { total: 1, lines: [{}, {}] },
  ] as Fields[]);
  const coverage = coverageOf(template, survey);
  const people = (node: string) => coverage.nodes.find((one) => one.node === node)?.people;
  expect([people('gift'), people('plain'), people('lines'), people('hello')]).toEqual([2, 1, 2, 3]);
  const hello = coverage.decisions.find(
    ({ decision }) => survey.decisions[decision]?.node === 'hello',
  );
  expect(hello?.outcomes).toContainEqual({ outcome: 'fallback', people: 2, person: 2 });
});

test('a variant is told by what sets it apart', async () => {
  const { make } = await surveyorOf();
  const usualOne = {
    total: 60,
    name: 'Ada',
    lines: [{ what: 'Pot' }],
    town: 'York',
    link: 'https://s.example/a',
  };
  const survey = surveyed(make, [
    usualOne,
    usualOne,
    usualOne,
    { ...usualOne, total: 2, name: '', lines: [] },
  ] as Fields[]);
  const usual = usualBits(survey.variants, survey.decisions.length);
  const words = survey.variants.map((one) =>
    sayVariant(one, usual, survey.decisions, nodeNames(template)),
  );
  expect(words).toEqual([
    'The usual in every part',
    'Without “GIFT” · no lines · fallback for name',
  ]);
});

test.each([
  ['person.first_name', 'first name'],
  ['title(person.first_name) otherwise "x"', 'first name'],
  ['https://s.example/{{ line.sku }}', 'line sku'],
  ['1 +', 'value'],
])('%s is about %s', (formula, topic) => expect(topicOf(formula)).toBe(topic));

test('the most different come from all corners, none twice', async () => {
  const { make } = await surveyorOf();
  const records = fc.sample(record, { numRuns: 200, seed: 3 }) as Fields[];
  const { variants } = surveyed(make, records);
  const six = mostDifferent(variants, 6);
  expect(new Set(six.map(({ key }) => key)).size).toBe(6);
  const apart = (a: string, b: string) => {
    const other = bitsOf(b);
    return bitsOf(a).filter((bits, i) => bits !== other[i]).length;
  };
  const nearest = (some: readonly { key: string }[]) =>
    Math.min(...some.flatMap((one, i) => some.slice(i + 1).map((two) => apart(one.key, two.key))));
  expect(nearest(six)).toBeGreaterThanOrEqual(nearest(variants.slice(0, 6)));
  expect(mostDifferent([], 6)).toEqual([]);
});

test('the impact of an edit is by person, in groups, worst first, and adds up', async () => {
  const after = structuredClone(template);
  after.envelope.subject = '{{ name }}';
  const hello = after.sections[0]?.columns[0]?.blocks[1];
  if (hello) Object.assign(hello, { when: 'name is filled' });
  const before = (await build(template)).program;
  const edited = (await build(after)).program;
  const records = [{ name: 'Ada' }, { name: '' }, { name: 'Bo' }] as Fields[];
  const count = (some: readonly Fields[], from: number) => {
    const counter = new ImpactCounter(before, edited);
    some.forEach((one, i) => counter.look(from + i, one, one, now));
    return counter.result();
  };
  const whole = count(records, 1);
  expect(whole).toMatchObject({ people: 3, changed: 3, lost: 0, gained: 0 });
  expect(whole.groups).toEqual([
    {
      nodes: [
        { node: '', change: 'changes' },
        { node: 'hello', change: 'vanishes' },
      ],
      ...{ worse: [''], people: 1, person: 2 },
    },
    { nodes: [{ node: '', change: 'changes' }], worse: [], people: 2, person: 1 },
  ]);
  expect(addImpact(count(records.slice(0, 1), 1), count(records.slice(1), 2))).toEqual(whole);
  const same = new ImpactCounter(before, before);
  for (const one of records) same.look(1, one, one, now);
  expect(same.result()).toMatchObject({ changed: 0, groups: [] });
});

test('what the mail itself is, is a fact', async () => {
  const loud = structuredClone(template);
  loud.envelope.subject = '{{ name }}';
  loud.envelope.preview_text = '{{ name }}';
  const { make } = await surveyorOf(loud);
  const { facts } = surveyed(make, [
    { name: 'LAST CHANCE' },
    { name: '' },
    { name: 'A long subject '.repeat(6).trim() },
    { name: 'Very very good' },
  ] as Fields[]);
  expect(
    Object.fromEntries(Object.entries(facts).map(([name, { people }]) => [name, people])),
  ).toEqual({
    ...{ subject_capitals: 1, subject_blank: 1, subject_long: 1, subject_twice: 1 },
    ...{ preview_blank: 1, preview_same: 3, no_postal_address: 4 },
  });
});
