import type { StoredTemplate } from '@carafe/contract';
import { blankTemplate, composer, countedIds, type Template } from '@carafe/core/template';
import { deskActions, deskSlice, type DeskState } from './deskSlice';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [c.section('S', [c.heading('One', { id: 'h' })])]);
const stored = (version: number, document: Template): StoredTemplate => ({
  id: 'x',
  version,
  updated_at: '',
  template: document,
});
const { reducer } = deskSlice;

function after(...actions: Parameters<typeof reducer>[1][]): DeskState {
  return actions.reduce<DeskState>(
    (state, action) => reducer(state, action),
    reducer(undefined, { type: 'start' }),
  );
}
const opened = deskActions.opened({ stored: stored(3, template), having: 'cart' });
const rename = (name: string, now = 0) =>
  deskActions.changed({ says: 'Rename', recipe: (draft) => void (draft.name = name), now });
const people = Array.from({ length: 5 }, (_, id) => ({
  id,
  email: `${id}@b.example`,
  name: '',
  lines: 0,
  orders: 0,
}));

describe('the desk', () => {
  test('an edit waits to be saved; saved, it is, unless another edit came meanwhile', () => {
    const edited = after(opened, rename('A'));
    expect([edited.template?.name, edited.save, edited.version]).toEqual(['A', 'waiting', 3]);
    const saved = reducer(
      reducer(edited, deskActions.saving()),
      deskActions.saved({ id: 'x', version: 4, template: edited.template as Template }),
    );
    expect([saved.save, saved.version]).toEqual(['saved', 4]);
    const meanwhile = reducer(
      reducer(edited, rename('B', 9000)),
      deskActions.saved({ id: 'x', version: 4, template: edited.template as Template }),
    );
    expect([meanwhile.save, meanwhile.version, meanwhile.template?.name]).toEqual([
      'waiting',
      4,
      'B',
    ]);
  });

  test('an edit that changes nothing is none', () => {
    const state = after(opened);
    expect(reducer(state, rename('T'))).toBe(state);
  });

  test('undo and redo give the very template back', () => {
    const state = after(
      opened,
      rename('A'),
      rename('B', 9000),
      deskActions.undone(),
      deskActions.undone(),
    );
    expect(state.template).toEqual(template);
    expect(reducer(reducer(state, deskActions.redone()), deskActions.redone()).template?.name).toBe(
      'B',
    );
    expect(reducer(state, deskActions.undone()).template).toEqual(template);
  });

  test('a conflict keeps both until one is chosen', () => {
    const theirs = { ...template, name: 'Theirs' };
    const state = after(opened, rename('Mine'), deskActions.conflicted(stored(7, theirs)));
    expect([state.save, state.template?.name, (state.conflict?.template as Template).name]).toEqual(
      ['conflict', 'Mine', 'Theirs'],
    );
    expect(reducer(state, rename('Mine 2')).save).toBe('conflict');
    const mine = reducer(state, deskActions.settled('mine'));
    expect([mine.save, mine.version, mine.template?.name, mine.conflict]).toEqual([
      'waiting',
      7,
      'Mine',
      null,
    ]);
    const taken = reducer(state, deskActions.settled('theirs'));
    expect([taken.save, taken.version, taken.template?.name]).toEqual(['saved', 7, 'Theirs']);
  });

  test('a failed save tells why and can be tried again', () => {
    const state = after(
      opened,
      rename('A'),
      deskActions.saveFailed({ id: 'x', message: 'No server.' }),
    );
    expect([state.save, state.saveMessage]).toEqual(['failed', 'No server.']);
    expect(reducer(state, deskActions.saving()).save).toBe('saving');
  });

  test('what becomes of another template’s save changes nothing here', () => {
    const state = after(opened, rename('A'));
    const other = { ...stored(9, template), id: 'another' };
    for (const late of [
      deskActions.saved({ id: 'another', version: 9, template }),
      deskActions.saveFailed({ id: 'another', message: 'No server.' }),
      deskActions.conflicted(other),
    ])
      expect(reducer(state, late)).toBe(state);
  });

  test('flipping stays within the list; a new question starts at its first', () => {
    const listed = deskActions.listed({ recipients: people, total: 9, offset: 0 });
    expect(after(opened, listed, deskActions.flipped(3)).index).toBe(3);
    expect(after(opened, listed, deskActions.flipped(99)).index).toBe(4);
    expect(after(opened, listed, deskActions.flipped(-1)).index).toBe(0);
    expect(
      after(opened, listed, deskActions.flipped(3), deskActions.searched({ search: 'x' })).index,
    ).toBe(0);
    const more = deskActions.listed({ recipients: people, total: 9, offset: 5 });
    expect(after(opened, listed, deskActions.flipped(4), more).recipients).toHaveLength(10);
  });

  test('who changes in the shop is as they are now in the list, and is told of', () => {
    const listed = after(opened, deskActions.listed({ recipients: people, total: 5, offset: 0 }));
    const changed = {
      ...people[1],
      id: 1,
      email: '1@b.example',
      name: 'Nora',
      lines: 2,
      orders: 0,
    };
    const now = reducer(listed, deskActions.changedInShop([changed]));
    expect(now.recipients.map((r) => r.lines)).toEqual([0, 2, 0, 0, 0]);
    expect([now.lately?.name, now.index]).toEqual(['Nora', 0]);
    const stranger = { ...changed, id: 99, name: 'Guest' };
    const later = reducer(now, deskActions.changedInShop([stranger]));
    expect([later.lately?.name, later.recipients.length]).toEqual(['Guest', 5]);
    expect(reducer(later, deskActions.changedInShop([])).lately?.name).toBe('Guest');
  });
});
