import fc from 'fast-check';
import mjml2html from 'mjml';
import { prepare } from '../render';
import {
  blankTemplate,
  composer,
  countedIds,
  newBlock,
  type Block,
  type BlockKind,
  type Section,
  type Template,
} from '../template';
import { BLOCKS } from '../blocks';
import { assemble, Formulas } from './assemble';
import { build, skeletonsOf } from './build';
import { building, Kept } from './known';
import { directionOf } from './direction';
import { documentMjml, sectionMjml } from './mjml';
import { Placeholders } from './placeholders';
import type { Op } from './program';

/** The HTML of a template made in one run of MJML over all of it, with its formulas in place. */
async function wholeRun(template: Template): Promise<string> {
  const own = {
    style: template.style,
    direction: directionOf(template.language),
    placeholders: new Placeholders(),
    findings: [],
  };
  const sections = template.sections.map((section) => sectionMjml(section, own)).join('');
  const source = documentMjml(template, own, sections);
  const { html } = await mjml2html(source, { validationLevel: 'skip', keepComments: true });
  const formulas = new Formulas();
  return written(assemble(html, own.placeholders, formulas), formulas.sources);
}

/** Operations as text, each formula by what it says; white space between tags means nothing. */
function written(ops: readonly Op[], formulas: readonly string[]): string {
  const write = (value: unknown, name = ''): unknown => {
    if (typeof value === 'number' && name !== 'columns' && name !== 'atMost')
      return formulas[value] ?? value;
    if (Array.isArray(value)) {
      const all: unknown[] = [];
      for (const one of value.map((inside) => write(inside)))
        if (typeof one === 'string' && typeof all.at(-1) === 'string')
          all[all.length - 1] = `${String(all.at(-1))}${one}`;
        else all.push(one);
      return all.map((one) => (typeof one === 'string' ? one.replace(/\s+/g, '') : one));
    }
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, write(v, k)]));
  };
  return JSON.stringify(write(ops));
}

async function agree(template: Template): Promise<void> {
  const { program } = await build(template);
  const made = written(program.html, program.formulas);
  const whole = await wholeRun(template);
  // Told from where they differ on: all of a mail is too long to read.
  const at = [...whole].findIndex((letter, i) => made[i] !== letter);
  const from = Math.max(0, (at < 0 ? whole.length : at) - 120);
  expect(made.slice(from, from + 300)).toBe(whole.slice(from, from + 300));
  expect(made.length).toBe(whole.length);
}

const newId = countedIds();
const c = composer(newId);
const SOURCES = { catalogs: ['garden'], feeds: ['journal'], coupons: ['welcome'] };
const kinds = Object.keys(BLOCKS) as BlockKind[];

const block = fc
  .record({ kind: fc.constantFrom(...kinds), when: fc.boolean(), loop: fc.boolean() })
  .map(
    ({ kind, when, loop }): Block =>
      ({
        ...newBlock(kind, newId, SOURCES),
        ...(when && { when: 'person.first_name is filled' }),
        ...(loop && { loop: { list: 'cart.lines', as: 'one' } }),
      }) as Block,
  );
const section = fc
  .record({
    columns: fc.array(fc.array(block, { maxLength: 3 }), { minLength: 1, maxLength: 3 }),
    width: fc.option(fc.integer({ min: 10, max: 60 }), { nil: undefined }),
    stacking: fc.constantFrom('stack', 'last_first', 'beside', undefined),
    when: fc.boolean(),
  })
  .map(({ columns, width, stacking, when }): Section => {
    const made = c.section('S', columns[0] ?? []) as Section;
    made.columns = columns.map(
      (blocks, i) =>
        ({
          ...{ kind: 'column', id: newId(), blocks },
          ...(i === 0 && width !== undefined && { width }),
        }) as never,
    );
    if (stacking) made.stacking = stacking;
    if (when) made.when = 'cart.total > 50';
    return made;
  });
type Change = (template: Template) => Template;
const change: fc.Arbitrary<Change> = fc.oneof(
  fc.tuple(section, fc.nat(6)).map(([one, at]): Change => (template) => {
    const sections = [...template.sections];
    sections.splice(at % (sections.length + 1), 0, one);
    return { ...template, sections };
  }),
  fc.nat(6).map((at): Change => (template) => ({
    ...template,
    sections: template.sections.filter((_, i) => i !== at % Math.max(1, template.sections.length)),
  })),
  fc.constant<Change>((template) => ({ ...template, sections: [...template.sections].reverse() })),
  fc.constantFrom('de', 'ar', 'en').map((language): Change => (template) => ({
    ...template,
    language,
  })),
  fc.constantFrom('#123456', '#abcdef').map((primary): Change => (template) => ({
    ...template,
    style: { ...template.style, primary },
  })),
  fc.string({ maxLength: 12 }).map((subject): Change => (template) => ({
    ...template,
    envelope: { ...template.envelope, subject: subject.replaceAll('{', '') },
  })),
);

/** Letters, merge tags and formulas of words, in any section. */
const wordsChange: fc.Arbitrary<Change> = fc
  .tuple(fc.nat(6), fc.string({ unit: 'grapheme', maxLength: 20 }))
  .map(([at, words]): Change => (template) => ({
    ...template,
    sections: template.sections.map((one, i) =>
      i === at % Math.max(1, template.sections.length)
        ? (JSON.parse(
            JSON.stringify(one).replace(
              /"(text|label|alt)":"(?:[^"\\]|\\.)*"/g,
              (_, name: string) => `"${name}":${JSON.stringify(words)}`,
            ),
          ) as Section)
        : one,
    ),
  }));

/** A build elsewhere, which knows of MJML only what it was told. */
async function agreesElsewhere(template: Template, kept: Kept): Promise<number> {
  const { asks, finish } = building(template, kept);
  const elsewhere = finish(asks ? await skeletonsOf(asks) : undefined);
  expect(elsewhere).toEqual(await build(template));
  return asks?.sections.length ?? 0;
}

test('what is built from skeletons, after any edits, is what is built with MJML', async () => {
  const edits = fc.array(fc.oneof(change, wordsChange), { minLength: 1, maxLength: 8 });
  await fc.assert(
    fc.asyncProperty(edits, async (changes) => {
      const kept = new Kept();
      let template = blankTemplate('T', 's', [c.section('S', [c.text('First')])]);
      for (const one of changes) {
        template = one(template);
        await agreesElsewhere(template, kept);
      }
    }),
    { numRuns: 100 },
  );
}, 60_000);

test('new words, tags and addresses need no MJML; another look of one section needs that section', async () => {
  const kept = new Kept();
  const mail = (heading: string, formula: string, href: string, quiet?: string): Template =>
    blankTemplate('T', 's', [
      c.section('A', [c.heading(heading)]),
      {
        ...c.section('B', [c.text(`Hello {{ ${formula} }}`), c.button('Go', href)]),
        ...(quiet && { background: quiet }),
      } as Section,
    ]);
  expect(await agreesElsewhere(mail('One', 'person.first_name', 'https://a.example'), kept)).toBe(
    2,
  );
  const two = 'Two & <three>, {{ person.last_name }}';
  const { asks } = building(mail(two, 'person.last_name', 'https://b.example'), kept);
  expect(asks).toBeNull();
  const asked = await agreesElsewhere(
    mail('Two', 'person.city', 'https://b.example', '#ffeedd'),
    kept,
  );
  expect(asked).toBe(1);
});

test('the HTML of another section is never taken for one', async () => {
  const { finish } = building(
    blankTemplate('T', 's', [c.section('A', [c.heading('One')])]),
    new Kept(),
  );
  const other = await skeletonsOf(
    blankTemplate('T', 's', [c.section('B', [c.text('One'), c.text('Two')])]),
  );
  expect(() => finish(other)).toThrow(/of another one/);
});

test('what is built anew after any edits is what one run over all of it gives', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(change, { minLength: 1, maxLength: 6 }), async (changes) => {
      let template = blankTemplate('T', 's', [c.section('S', [c.text('First')])]);
      for (const one of changes) {
        template = one(template);
        await agree(template);
      }
    }),
    { numRuns: 100 },
  );
}, 60_000);

test('a mail without sections is one, too', async () => {
  const empty = blankTemplate('T', 's', []);
  await agree(empty);
  const { program } = await build(empty);
  expect(prepare(program)({}, { asOf: new Date(0) }).mail.html).toMatch(/<\/html>\s*$/);
});

test('a section that stands twice is made once and filled twice', async () => {
  const one = c.section('S', [c.text('Hello {{ person.first_name }}')]);
  const template = blankTemplate('T', 's', [one, one]);
  await agree(template);
});
