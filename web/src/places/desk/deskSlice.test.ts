import type { StoredTemplate } from '@carafe/contract';
import {
  blankTemplate,
  composer,
  countedIds,
  edit,
  removeNode,
  type Template,
} from '@carafe/core/template';
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

/** An action, or what makes one of the state that it is to come to. */
type Step = Parameters<typeof reducer>[1] | ((state: DeskState) => Parameters<typeof reducer>[1]);
const step = (state: DeskState, next: Step) =>
  reducer(state, typeof next === 'function' ? next(state) : next);

function after(...steps: Step[]): DeskState {
  return steps.reduce(step, reducer(undefined, { type: 'start' }));
}
const opened = deskActions.opened({ stored: stored(3, template), having: 'cart' });
const rename =
  (name: string, now = 0) =>
  (state: DeskState) => {
    const done = edit(state.template as Template, 'Rename', (draft) => void (draft.name = name));
    if (!done) throw new Error('An edit that changes nothing is none.');
    return deskActions.changed({ edit: done.edit, now });
  };
const conflictWith = (version: number, theirs: Template, id = 'x') =>
  deskActions.conflicted({ id, conflict: { version, template: theirs } });
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
      step(edited, rename('B', 9000)),
      deskActions.saved({ id: 'x', version: 4, template: edited.template as Template }),
    );
    expect([meanwhile.save, meanwhile.version, meanwhile.template?.name]).toEqual([
      'waiting',
      4,
      'B',
    ]);
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

  describe('saved elsewhere meanwhile', () => {
    const theirs = { ...template, name: 'Theirs', language: 'de' };
    const state = after(opened, rename('Mine'), conflictWith(7, theirs));
    const look = (desk: DeskState) => [desk.save, desk.version, desk.template?.name, desk.conflict];

    test('both are kept until one is chosen, and editing goes on', () => {
      expect([state.save, state.template?.name, state.conflict?.template.name]).toEqual([
        'conflict',
        'Mine',
        'Theirs',
      ]);
      expect(step(state, rename('Mine 2')).save).toBe('conflict');
    });

    test('mine waits to be saved over theirs; undo brings theirs, redo mine', () => {
      const mine = reducer(state, deskActions.settled('mine'));
      expect(look(mine)).toEqual(['waiting', 7, 'Mine', null]);
      const undone = reducer(mine, deskActions.undone());
      expect(undone.template).toEqual(theirs);
      expect(reducer(undone, deskActions.redone()).template?.name).toBe('Mine');
    });

    test('theirs is saved already; undo brings mine, and what was done before it', () => {
      const taken = reducer(state, deskActions.settled('theirs'));
      expect(look(taken)).toEqual(['saved', 7, 'Theirs', null]);
      expect(taken.template).toEqual(theirs);
      const undone = reducer(taken, deskActions.undone());
      expect(look(undone)).toEqual(['waiting', 7, 'Mine', null]);
      expect(undone.template?.language).toBe(template.language);
      expect(reducer(undone, deskActions.undone()).template).toEqual(template);
    });

    test('two versions that are the same are settled without an edit', () => {
      const same = after(opened, rename('Mine'), conflictWith(7, { ...template, name: 'Mine' }));
      const settled = reducer(same, deskActions.settled('theirs'));
      expect(look(settled)).toEqual(['saved', 7, 'Mine', null]);
      expect(settled.history).toBe(same.history);
    });
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
    for (const late of [
      deskActions.saved({ id: 'another', version: 9, template }),
      deskActions.saveFailed({ id: 'another', message: 'No server.' }),
      conflictWith(9, template, 'another'),
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
    const others = people.map((one) => ({ ...one, id: one.id + 5 }));
    const more = deskActions.listed({ recipients: others, total: 9, offset: 5 });
    expect(after(opened, listed, deskActions.flipped(4), more).recipients).toHaveLength(10);
  });

  test('somebody who is looked at stands in the list once, wherever the list comes to them', () => {
    const listed = deskActions.listed({ recipients: people, total: 9, offset: 0 });
    const others = people.map((one) => ({ ...one, id: one.id + 5 }));
    const [, , seventh] = others;
    const [, , , fourth] = people;
    if (!seventh || !fourth) throw new Error('There are too few people.');
    const seen = after(opened, listed, deskActions.lookedAt(seventh));
    expect(seen.recipients[seen.index]?.id).toBe(7);
    const more = deskActions.listed({ recipients: others, total: 9, offset: 5 });
    const ids = after(opened, listed, deskActions.lookedAt(seventh), more).recipients.map(
      ({ id }) => id,
    );
    expect(ids).toEqual([7, 0, 1, 2, 3, 4, 5, 6, 8, 9]);
    expect(after(opened, listed, deskActions.lookedAt(fourth)).index).toBe(3);
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

  test('what was written before a reload is put on what is stored, and one undo takes it off', () => {
    const written = { ...template, name: 'Written' };
    const back = after(opened, deskActions.recovered({ version: 3, template: written }));
    expect([back.template?.name, back.save]).toEqual(['Written', 'waiting']);
    expect(step(back, deskActions.undone()).template?.name).toBe('T');
    const same = after(opened, deskActions.recovered({ version: 3, template }));
    expect(same.save).toBe('saved');
  });

  test('where something else was saved meanwhile, both are kept until one is chosen', () => {
    const written = { ...template, name: 'Written' };
    const both = after(opened, deskActions.recovered({ version: 2, template: written }));
    expect([both.template?.name, both.save]).toEqual(['Written', 'conflict']);
    expect(both.conflict).toMatchObject({ version: 3, template: { name: 'T' } });
    expect(step(both, deskActions.settled('theirs')).template?.name).toBe('T');
    expect(step(both, deskActions.settled('mine')).template?.name).toBe('Written');
  });
});

describe('taking back', () => {
  const two = blankTemplate('T', 's', [
    c.section('S', [c.heading('One', { id: 'a' }), c.heading('Two', { id: 'b' })], { id: 's' }),
  ]);
  const changed = (recipe: (draft: Template) => void) => (state: DeskState) => {
    const done = edit(state.template as Template, 'Change', recipe);
    if (!done) throw new Error('An edit that changes nothing is none.');
    return deskActions.changed({ edit: done.edit, now: 0 });
  };
  const open = deskActions.opened({ stored: stored(1, two), having: 'cart' });
  const look = ({ selected, also }: DeskState) => [selected, ...also];

  test('what was deleted is selected again, all of it', () => {
    const gone = after(
      open,
      deskActions.selected('a'),
      deskActions.alsoSelected('b'),
      changed((draft) => void removeNode(draft, 'a')),
      changed((draft) => void removeNode(draft, 'b')),
      deskActions.selected('s'),
    );
    const one = reducer(gone, deskActions.undone());
    expect(look(one)).toEqual(['b']);
    expect(look(reducer(one, deskActions.undone()))).toEqual(['b', 'a']);
  });

  test('where what is selected goes, what it was made of is selected', () => {
    const wrapped = after(
      open,
      deskActions.selected('b'),
      changed((draft) => void draft.sections.push(c.section('New', [], { id: 'new' }))),
      deskActions.selected('new'),
    );
    const back = reducer(wrapped, deskActions.undone());
    expect(look(back)).toEqual(['b']);
    expect(look(reducer(back, deskActions.redone()))).toEqual(['b']);
  });

  test('else what is selected stays; edits are taken back however many there were', () => {
    const many = Array.from({ length: 1_200 }, (_, i) =>
      changed((draft) => void (draft.name = `Name ${i}`)),
    );
    let state = after(open, deskActions.selected('a'), ...many, deskActions.selected('b'));
    for (let i = 0; i < 1_200; i++) state = reducer(state, deskActions.undone());
    expect(state.template).toEqual(two);
    expect(look(state)).toEqual(['b']);
  });
});
