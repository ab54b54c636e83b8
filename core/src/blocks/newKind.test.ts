import { z } from 'zod';
import { mailOf } from '../build/testing';
import { checkSites } from '../check';
import { inferShape } from '../shape';
import { templateSites } from '../site';
import {
  blankTemplate,
  childrenOf,
  composer,
  countedIds,
  edit,
  findNode,
  insertNode,
  kindOf,
  moveNode,
  newBlock,
  NO_HISTORY,
  putField,
  readTemplate,
  remember,
  removeNode,
  siblingsOf,
  undo,
  walkNodes,
  type Block,
  type BlockKind,
  type Template,
} from '../template';
import { common, looks, Running } from '../template/parts';
import { BLOCKS } from '.';
import { defineBlock } from './define';

/** A kind that nobody has heard of: a frame with a caption round blocks of its own. */
const frame = defineBlock({
  kind: 'frame',
  name: 'Frame',
  description: 'Blocks with a line round them.',
  icon: 'M4 4h16v16H4z',
  schema: z.strictObject({ kind: z.literal('frame'), ...common, ...looks, caption: Running }),
  make: (id) => ({ kind: 'frame' as const, id, caption: 'For {{ person.first_name }}' }),
  fields: [{ control: 'line', path: 'caption', label: 'Caption', holds: 'text', inPlace: true }],
  children: [{ at: 'blocks', accepts: 'block', most: 10 }],
  label: (block) => block.caption,
  mjml: (block, writer, children) =>
    `<mj-text>${writer.running(block.caption, 'html', 'caption')}</mj-text>${children('blocks')}`,
  text: (block, writer, children) =>
    `[${writer.running(block.caption, 'plain', 'caption')}]\n\n${children('blocks')}`,
});

beforeAll(() => void Object.assign(BLOCKS, { frame }));
afterAll(() => void Reflect.deleteProperty(BLOCKS, 'frame'));

const kind = 'frame' as BlockKind;

/** A mail with a frame in a frame, and a heading in the inner one. */
function sample(): Template {
  const newId = countedIds();
  const c = composer(newId);
  const framed = (id: string, blocks: Block[]) =>
    ({ ...newBlock(kind, newId), id, blocks }) as unknown as Block;
  const inner = framed('inner', [c.heading('Hi {{ one.n }}', { id: 'deep' })]);
  return blankTemplate('T', 's', [
    c.section('S', [framed('outer', [inner, c.text('beside', { id: 'beside' })])]),
  ]);
}

describe('a kind of block that was added in one file and one list', () => {
  it('is read, with the blocks inside it to any depth', () => {
    const template: unknown = JSON.parse(JSON.stringify(sample()));
    expect(readTemplate(template)).toMatchObject({ ok: true });
    const wrong = sample();
    Object.assign(findNode(wrong, 'inner')?.node ?? {}, { blocks: [{ kind: 'nothing' }] });
    expect(readTemplate(wrong)).toMatchObject({ ok: false });
  });

  it('is made empty, ready to be filled', () => {
    expect(newBlock(kind, countedIds())).toMatchObject({ kind: 'frame', blocks: [] });
  });

  it('is built and filled, HTML and text', async () => {
    const { mail, findings } = await mailOf(sample(), { person: { first_name: 'Maud' } });
    expect(findings).toEqual([]);
    expect(mail.html).toContain('For Maud');
    expect(mail.html.match(/For Maud/g)).toHaveLength(2);
    expect(mail.html).toMatch(/<h2[^>]*>Hi /);
    expect(mail.text).toBe('[For Maud]\n\n[For Maud]\n\nHi\n\nbeside\n');
  });

  it('shows and repeats what it holds by conditions and loops', async () => {
    const template = sample();
    putField(template, 'inner', 'when', 'person is filled');
    putField(template, 'inner', 'loop', { list: 'list', as: 'one' });
    const { mail } = await mailOf(template, { person: {}, list: [{ n: 1 }, { n: 2 }] });
    expect(mail.text).toContain('Hi 1');
    expect(mail.text).toContain('Hi 2');
    expect((await mailOf(template, {})).mail.text).not.toContain('Hi');
  });

  it('is checked: its fields are sites, and loops and conditions round it count inside', () => {
    const template = sample();
    putField(template, 'outer', 'caption', '{{ person.frist_name }}');
    putField(template, 'inner', 'loop', { list: 'list', as: 'one' });
    const shape = inferShape([
      { person: { first_name: 'A' }, list: [{ n: 1 }], shop: { name: 'S' } },
    ]);
    expect(checkSites(templateSites(template), shape)).toMatchObject([
      { node: 'outer', path: 'caption', repair: { text: 'person.first_name' } },
    ]);
    expect(templateSites(template).find(({ node }) => node === 'deep')?.loops).toHaveLength(1);
  });

  it('is labelled, walked, moved into and out of, and undone', () => {
    const template = sample();
    const outer = findNode(template, 'outer')?.node;
    if (!outer) throw new Error('the frame is there');
    expect(kindOf(outer).label(outer as never)).toBe('For {{ person.first_name }}');
    expect(childrenOf(outer).map(({ id }) => id)).toEqual(['inner', 'beside']);
    const ids: string[] = [];
    walkNodes(template, ({ node, parents }) => ids.push(`${node.id} ${parents.length}`));
    expect(ids.slice(2)).toEqual(['outer 2', 'inner 3', 'deep 4', 'beside 3']);

    const moved = edit(template, 'Move', (draft) =>
      moveNode(draft, 'beside', { parent: 'inner', at: 'blocks', index: 0 }),
    );
    if (!moved) throw new Error('it was moved');
    expect(siblingsOf(moved.template, 'beside')).toMatchObject({
      index: 0,
      parent: { id: 'inner' },
    });
    const changed = edit(moved.template, 'Caption', (draft) =>
      putField(draft, 'outer', 'caption', 'New'),
    );
    if (!changed) throw new Error('it was changed');
    let history = remember(remember(NO_HISTORY, moved.edit, 0), changed.edit, 9_000);
    let back = undo(changed.template, history);
    if (back) ({ history } = back);
    back = back && undo(back.template, history);
    expect(back?.template).toEqual(template);
  });

  it('is not moved into itself, holds no more than it may, and is deleted with what it holds', () => {
    const template = sample();
    expect(
      edit(template, 'Move', (d) => moveNode(d, 'outer', { parent: 'inner', index: 0 })),
    ).toBeNull();
    const filled = edit(template, 'Fill', (d) => {
      for (let i = 0; i < 20; i++)
        insertNode(d, composer(() => `x${i}`).text('x'), { parent: 'inner', index: 0 });
    });
    expect(filled && childrenOf(findNode(filled.template, 'inner')?.node as Block)).toHaveLength(
      10,
    );
    const gone = edit(template, 'Delete', (d) => removeNode(d, 'inner'));
    expect(gone && findNode(gone.template, 'deep')).toBeUndefined();
  });
});
