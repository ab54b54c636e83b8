/** @jest-environment jsdom */
import { act, cleanup, screen } from '@testing-library/react';
import { Notifications } from '@mantine/notifications';
import userEvent from '@testing-library/user-event';
import {
  blankTemplate,
  changeNode,
  composer,
  countedIds,
  edit,
  findNode,
} from '@carafe/core/template';
import { store } from '../../app/store';
import { renderPart } from '../../testing';
import { desk, openTemplate, somePeople } from '../../testing/desk';
import { deskActions } from './deskSlice';
import { useDeskKeys } from './useDeskKeys';
import { useEdit } from './useEdit';

const c = composer(countedIds());
const template = blankTemplate('T', 'seeds', [
  c.section('First', [c.heading('One', { id: 'one' }), c.heading('Two', { id: 'two' })]),
  c.section('Second', [c.heading('Three', { id: 'three' })]),
]);
const calls: string[] = [];

function Keys() {
  useDeskKeys({
    onAdd: () => calls.push('add'),
    onEverybody: () => undefined,
    onKeys: () => calls.push('keys'),
  });
  const { put } = useEdit();
  return (
    <>
      <input aria-label="Name" onChange={(e) => put(null, 'Name', 'name', e.target.value)} />
      <aside data-template-form>
        <input aria-label="Section name" />
      </aside>
      <button type="button" onClick={() => calls.push('pressed')}>
        Elsewhere
      </button>
      <Notifications />
      <div role="menu">
        <button type="button">In a menu</button>
      </div>
    </>
  );
}
const select = (id: string | null) => act(() => void store.dispatch(deskActions.selected(id)));
const texts = () =>
  ['one', 'two', 'three'].filter((id) => findNode(desk().template ?? template, id));
/** The ids of the blocks of the first column, in order. */
function order(): string[] {
  const [section] = desk().template?.sections ?? [];
  return section?.columns[0]?.blocks.map(({ id }) => id) ?? [];
}

beforeEach(() => {
  calls.length = 0;
  openTemplate(template);
  act(() => {
    store.dispatch(deskActions.listed({ recipients: somePeople(3), total: 3, offset: 0 }));
  });
  renderPart(<Keys />);
});
afterEach(cleanup);

/** Nothing is drawn here that what is typed could go to: the mouse ends the waiting for it. */
const nothingOpens = () => void window.dispatchEvent(new Event('pointerdown'));

describe('the keys of the desk', () => {
  it('flip through recipients, and stop at both ends', async () => {
    await userEvent.keyboard('jjj');
    expect(desk().index).toBe(2);
    await userEvent.keyboard('kkkk');
    expect(desk().index).toBe(0);
  });

  it('walk through the mail in reading order', async () => {
    select('one');
    await userEvent.keyboard('{ArrowDown}');
    expect(desk().selected).toBe('two');
    await userEvent.keyboard('{ArrowUp}{ArrowUp}{ArrowUp}{ArrowUp}{ArrowUp}');
    expect(desk().selected).toBe('envelope');
    // Above the envelope there is nothing, and it is never part of several.
    await userEvent.keyboard('{ArrowUp}{Shift>}{ArrowDown}{/Shift}');
    expect(desk()).toMatchObject({ selected: 'envelope', also: [] });
    await userEvent.keyboard('{ArrowDown}');
    expect(desk().selected).toBe(template.sections[0]?.id);
    await userEvent.keyboard('{Escape}');
    expect(desk().selected).toBeNull();
  });

  it('move, double and delete what is selected, each undone by one key', async () => {
    select('one');
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(order()).toEqual(['two', 'one']);
    await userEvent.keyboard('{Control>}d{/Control}');
    expect(order()).toHaveLength(3);
    await userEvent.keyboard('{Control>}zz{/Control}');
    expect(order()).toEqual(['one', 'two']);
    select('two');
    await userEvent.keyboard('{Delete}');
    expect(texts()).toEqual(['one', 'three']);
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(texts()).toEqual(['one', 'two', 'three']);
    await userEvent.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
    expect(texts()).toEqual(['one', 'three']);
  });

  it('select everything beside the selection, which are deleted together', async () => {
    select('one');
    await userEvent.keyboard('{Control>}a{/Control}');
    expect(desk()).toMatchObject({ selected: 'one', also: ['two'] });
    await userEvent.keyboard('{Delete}');
    expect(texts()).toEqual(['three']);
    select(null);
    await userEvent.keyboard('{Control>}a{/Control}');
    expect([...desk().also, desk().selected]).toEqual(template.sections.map(({ id }) => id));
  });

  it('pass over what the outline does not list', async () => {
    select('two');
    await userEvent.keyboard('{ArrowDown}{ArrowDown}');
    expect(desk().selected).toBe('three');
    await userEvent.keyboard('{ArrowUp}');
    expect(desk().selected).toBe(template.sections[1]?.id);
  });

  it('move a block past the end of its section into the next, and back', async () => {
    const blocks = (section: number) =>
      desk().template?.sections[section]?.columns[0]?.blocks.map(({ id }) => id);
    select('two');
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect([blocks(0), blocks(1)]).toEqual([['one'], ['two', 'three']]);
    await userEvent.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect([blocks(0), blocks(1)]).toEqual([['one', 'two'], ['three']]);
    select('three');
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(blocks(1)).toEqual(['three']);
  });

  it('move several together, and none of them where the first cannot', async () => {
    select('one');
    await userEvent.keyboard('{Shift>}{ArrowDown}{/Shift}{Alt>}{ArrowUp}{/Alt}');
    expect(order()).toEqual(['one', 'two']);
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(order()).toEqual([]);
    expect(desk().template?.sections[1]?.columns[0]?.blocks.map(({ id }) => id)).toEqual([
      ...['one', 'two', 'three'],
    ]);
    expect([desk().also, desk().selected, desk().said]).toEqual([
      ...[['one'], 'two', 'Moved down: 2 parts.'],
    ]);
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(order()).toEqual(['one', 'two']);
  });

  it('give blocks a section of their own, and say why where they cannot have one', async () => {
    select('two');
    await userEvent.keyboard('s');
    const own = desk().template?.sections[1];
    expect(own?.columns[0]?.blocks.map(({ id }) => id)).toEqual(['two']);
    expect(desk().selected).toBe(own?.id);
    select('three');
    await userEvent.keyboard('s');
    expect(await screen.findByText('No section of its own')).toBeTruthy();
    expect(desk().template?.sections).toHaveLength(3);
  });

  it('take a group apart, and say what goes with it', async () => {
    select('one');
    await userEvent.keyboard('{Shift>}{ArrowDown}{/Shift}{Control>}g{/Control}');
    const group = desk().selected ?? '';
    act(() => {
      const now = desk().template;
      const done = now && edit(now, 'C', (d) => changeNode(d, group, (n) => void (n.when = 'x')));
      if (done) store.dispatch(deskActions.changed({ edit: done.edit, now: 0 }));
    });
    await userEvent.keyboard('{Control>}{Shift>}g{/Shift}{/Control}');
    expect(order()).toEqual(['one', 'two']);
    expect([desk().also, desk().selected]).toEqual([['one'], 'two']);
    expect(await screen.findByText(/Its condition was deleted with it/)).toBeTruthy();
  });

  it('edit the selection: words where they stand, anything else in its first field', async () => {
    select('one');
    await userEvent.keyboard('{Enter}');
    expect(desk()).toMatchObject({ selected: 'one', editing: 'one' });
    nothingOpens();
    select('two');
    expect(desk().editing).toBeNull();
    select(template.sections[0]?.id ?? null);
    await userEvent.keyboard('{Enter}');
    expect(document.activeElement).toBe(screen.getByLabelText('Section name'));
    // What has the focus is pressed by it, and not taken for the selection.
    screen.getByRole('button', { name: 'Elsewhere' }).focus();
    await userEvent.keyboard('{Enter}');
    expect(calls).toEqual(['pressed']);
    expect(desk().editing).toBeNull();
  });

  it('do nothing to nodes while the envelope or nothing is selected', async () => {
    for (const id of [null, 'envelope']) {
      select(id);
      await userEvent.keyboard('{Delete}{Control>}d{/Control}{Alt>}{ArrowUp}{/Alt}');
    }
    expect(desk().template).toBe(template);
  });

  it('open the list of blocks, the list of keys, and Why', async () => {
    await userEvent.keyboard('/b');
    // What is typed while the list opens is for the list.
    expect(desk().becauseOpen).toBe(false);
    nothingOpens();
    await userEvent.keyboard('?b');
    expect(calls).toEqual(['add', 'keys']);
    expect(desk().becauseOpen).toBe(true);
    await userEvent.keyboard('b');
  });

  it('are letters while something is typed, but for undo', async () => {
    await userEvent.type(screen.getByLabelText('Name'), 'jb');
    expect(desk()).toMatchObject({ index: 0, becauseOpen: false });
    expect(desk().template?.name).toBe('jb');
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(desk().template?.name).toBe('T');
  });

  it('belong to a menu while it has the focus', async () => {
    select('one');
    screen.getByRole('button', { name: 'In a menu' }).focus();
    await userEvent.keyboard('j{Delete}');
    expect(desk().index).toBe(0);
    expect(texts()).toContain('one');
  });
});
