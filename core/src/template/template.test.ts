import fc from 'fast-check';
import {
  apply,
  BLOCKS,
  blankTemplate,
  changeNode,
  composer,
  countedIds,
  edit,
  findNode,
  fromLayout,
  fromRunning,
  insertNode,
  LAYOUTS,
  moveNode,
  newBlock,
  NO_HISTORY,
  readTemplate,
  readTemplateText,
  redo,
  remember,
  removeNode,
  takeBack,
  templateJsonSchema,
  toRunning,
  undo,
  walkNodes,
  withNewIds,
  type BlockKind,
  type Template,
} from '.';

function sample(): Template {
  const newId = countedIds();
  const c = composer(newId);
  return blankTemplate('Sample', 'shop', [
    c.section('A', [
      c.heading('One {{ a }}'),
      c.text('Two {{ b }}'),
      c.block('lines'),
      c.block('totals'),
    ]),
    c.columns('B', [[c.button('Go', 'https://x.example')], [c.block('cards')]]),
    c.section('C', [c.text('shown', { when: 'x', else: c.text('else') })]),
  ]);
}
const idsOf = (template: Template) => {
  const ids: string[] = [];
  walkNodes(template, ({ node }) => ids.push(node.id));
  return ids;
};

const SHOP = {
  address: 'A',
  id: 's',
  url: 'https://shop.quillmoss.example/gb',
  catalogs: ['my plants'],
  feeds: [],
  coupons: [],
};

describe('reading a template', () => {
  test.each(Object.keys(BLOCKS) as BlockKind[])('a new %s block is sound', (kind) => {
    const newId = countedIds();
    const template = blankTemplate('T', 's', [
      composer(newId).section('S', [newBlock(kind, newId)]),
    ]);
    expect(readTemplate(template)).toMatchObject({ ok: true });
  });

  test.each(LAYOUTS.map((l) => [l.name, l] as const))('the layout %s is sound', (_, layout) => {
    expect(
      readTemplate(JSON.parse(JSON.stringify(fromLayout(layout, 'T', SHOP, countedIds())))),
    ).toMatchObject({ ok: true });
  });

  const broken = (change: (t: Record<string, unknown>) => void) => {
    const copy = JSON.parse(JSON.stringify(sample())) as Record<string, unknown>;
    change(copy);
    return readTemplate(copy);
  };
  test.each([
    ['not an object', () => readTemplate([1]), 'JSON object'],
    ['no JSON', () => readTemplateText('{"format":'), 'not JSON'],
    ['another format', () => broken((t) => void (t['format'] = 'other')), 'not a Carafe template'],
    ['a later version', () => broken((t) => void (t['version'] = 99)), 'of version 99'],
    ['an unknown key', () => broken((t) => void (t['extra'] = 1)), 'extra'],
    [
      'a doubled id',
      () =>
        broken((t) =>
          (t['sections'] as { id: string }[]).forEach((section) => (section.id = 'same')),
        ),
      'must be unique',
    ],
    [
      'a wrong colour',
      () => broken((t) => void ((t['style'] as Record<string, string>)['ink'] = 'red;x')),
      '#rrggbb',
    ],
  ])('%s is refused in plain words', (_, read, part) => {
    const result = read();
    expect(result.ok ? 'read' : result.problems.map((p) => p.message).join()).toContain(part);
  });

  test('nesting without end is refused, not followed', () => {
    let deep: unknown = {};
    for (let i = 0; i < 5000; i++) deep = { else: deep };
    expect(readTemplate({ format: 'carafe-template', version: 1, deep })).toMatchObject({
      ok: false,
    });
  });

  test('any JSON is read or refused, never thrown', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => void readTemplate(value)));
  });

  test('its JSON Schema names every kind of block', () => {
    const text = JSON.stringify(templateJsonSchema());
    for (const kind of Object.keys(BLOCKS)) expect(text).toContain(`"const":"${kind}"`);
  });
});

describe('edits', () => {
  const kinds = Object.keys(BLOCKS) as BlockKind[];
  /** Any edit that the interface can make, by numbers. */
  const step = fc.record({ what: fc.nat(4), a: fc.nat(30), b: fc.nat(30), c: fc.nat(4) });
  const doStep = (
    template: Template,
    { what, a, b, c }: { what: number; a: number; b: number; c: number },
    newId: () => string,
  ) => {
    const ids = idsOf(template);
    const id = ids[a % Math.max(1, ids.length)] ?? '';
    const other = ids[b % Math.max(1, ids.length)] ?? null;
    return edit(template, `step ${what}`, (draft) => {
      if (what === 0)
        insertNode(draft, newBlock(kinds[b % kinds.length] ?? 'text', newId), {
          parent: id,
          index: c,
        });
      if (what === 1) removeNode(draft, id);
      if (what === 2) moveNode(draft, id, { parent: c === 0 ? null : other, index: c });
      if (what === 3) changeNode(draft, id, (n) => void (n.when = `x = ${b}`));
      const found = findNode(template, id)?.node;
      if (what === 4 && found)
        insertNode(draft, withNewIds(found, newId), { parent: other, index: 0 });
    });
  };

  test('invert exactly: taking back and making again give the same values', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        const newId = countedIds();
        let template = sample();
        let history = NO_HISTORY;
        const states = [template];
        let count = 0;
        for (const s of steps) {
          const done = doStep(template, s, () => `x${newId()}`);
          if (!done) continue;
          expect(takeBack(done.template, done.edit)).toEqual(template);
          expect(apply(template, done.edit)).toEqual(done.template);
          template = done.template;
          history = remember(history, done.edit, (count += 10_000));
          states.push(template);
          expect(new Set(idsOf(template)).size).toBe(idsOf(template).length);
          expect(readTemplate(template)).toMatchObject({ ok: true });
        }
        for (let i = states.length - 2; i >= 0; i--) {
          const back = undo(template, history);
          if (!back) throw new Error('there is more to undo');
          ({ template, history } = back);
          expect(template).toEqual(states[i]);
        }
        expect(undo(template, history)).toBeNull();
        for (let i = 1; i < states.length; i++) {
          const again = redo(template, history);
          if (!again) throw new Error('there is more to redo');
          ({ template, history } = again);
          expect(template).toEqual(states[i]);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('typing becomes one edit, other edits stay apart', () => {
    const first = sample();
    const type = (template: Template, text: string) =>
      edit(
        template,
        'Edit the heading',
        (d) => changeNode(d, 'n1', (n) => void (n.kind === 'heading' && (n.text = text))),
        'n1',
      );
    const one = type(first, 'a');
    const two = one && type(one.template, 'ab');
    if (!one || !two) throw new Error('edits change something');
    const together = remember(remember(NO_HISTORY, one.edit, 1000), two.edit, 1500);
    expect(together.past).toHaveLength(1);
    expect(undo(two.template, together)?.template).toEqual(first);
    expect(remember(remember(NO_HISTORY, one.edit, 1000), two.edit, 9000).past).toHaveLength(2);
  });

  test('a node is not moved into itself, and a section keeps a column', () => {
    const template = sample();
    const section = template.sections[0];
    const column = section?.columns[0];
    if (!section || !column) throw new Error('the sample has sections');
    expect(
      edit(template, 'm', (d) => moveNode(d, section.id, { parent: column.id, index: 0 })),
    ).toBeNull();
    const without = edit(template, 'r', (d) => removeNode(d, column.id));
    expect(without?.template.sections).toHaveLength(2);
  });
});

describe('words', () => {
  test('running text and inlines turn into each other', () => {
    const text = 'Hello {{ title(a) otherwise "x" }}, {{ b }}{{ c }}!';
    expect(toRunning(fromRunning(text))).toBe(text);
    expect(fromRunning('a {{ b')).toEqual([{ type: 'text', text: 'a {{ b' }]);
  });
});
