import type { Having, Recipient, RecipientFilter, StoredTemplate } from '@carafe/contract';
import {
  apply,
  edit,
  NO_HISTORY,
  redo,
  remember,
  undo,
  type Edit,
  type History,
  type Template,
} from '@carafe/core/template';
import { createSlice, original, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { selectedAfter, selectionOf } from './selectedAfter';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'failed' | 'conflict';

/** What the canvas shows the mail with. */
export interface View {
  width: 'wide' | 'phone';
  pictures: boolean;
  dark: boolean;
  /** The instant that the mail is filled for, in ISO 8601; empty is now. */
  asOf: string;
}

/** What was saved elsewhere while this was worked on; both are kept until one is chosen. */
export interface SaveConflict {
  version: number;
  template: Template;
}

/** What the desk does when it is asked by name. */
export type DeskAsk = 'add' | 'everybody' | 'test' | 'publish' | 'keys';

export interface DeskState {
  id: string | null;
  /** The version on the server that this was made from. */
  version: number;
  template: Template | null;
  history: History;
  save: SaveState;
  saveMessage: string;
  conflict: SaveConflict | null;
  /** The node that is selected; 'envelope' is the envelope. */
  selected: string | null;
  /** What is selected beside it. */
  also: string[];
  /** The node whose words are edited in place. */
  editing: string | null;
  recipients: Recipient[];
  total: number;
  having: Having;
  search: string;
  /** Whom the list of recipients holds, of those who fit. */
  filter: RecipientFilter;
  /** How many of the list were put there to be looked at, though the list had not come to them. */
  guests: number;
  /** How far down the list somebody looked. */
  reached: number;
  /** Which recipient of the list the canvas is filled for. */
  index: number;
  view: View;
  becauseOpen: boolean;
  /** What was just done that is not seen otherwise, read aloud. */
  said: string;
  /** What was asked for from elsewhere, until the desk does it. */
  asked: DeskAsk | null;
  /** Who did something in the shop while the desk was open, the last of them. */
  lately: Recipient | null;
}

const initialState: DeskState = {
  id: null,
  version: 0,
  template: null,
  history: NO_HISTORY,
  save: 'saved',
  saveMessage: '',
  conflict: null,
  selected: null,
  also: [],
  editing: null,
  recipients: [],
  total: 0,
  having: 'all',
  search: '',
  filter: {},
  guests: 0,
  reached: 0,
  index: 0,
  view: { width: 'wide', pictures: true, dark: false, asOf: '' },
  becauseOpen: false,
  said: '',
  asked: null,
  lately: null,
};

/** The state as it was before this action, without the drafts that reducers are given. */
function plain(state: Draft<DeskState>): DeskState {
  return original(state) as DeskState;
}

/** After an edit: it waits to be saved, but for a conflict that is still to be settled. */
const afterEdit = ({ save }: DeskState): SaveState =>
  save === 'conflict' ? 'conflict' : 'waiting';

interface Changed {
  edit: Edit;
  /** Milliseconds. */
  now: number;
}

export const deskSlice = createSlice({
  name: 'desk',
  initialState: initialState as DeskState,
  reducers: {
    opened: (
      state,
      { payload }: PayloadAction<{ stored: StoredTemplate; having: Having }>,
    ): DeskState => ({
      ...initialState,
      view: state.view,
      filter: state.filter,
      becauseOpen: state.becauseOpen,
      id: payload.stored.id,
      version: payload.stored.version,
      template: payload.stored.template as Template,
      having: payload.having,
    }),
    /** An edit that was made of the template as it stands. */
    changed(state, { payload }: PayloadAction<Changed>): DeskState | undefined {
      const current = plain(state);
      if (!current.template) return undefined;
      return {
        ...current,
        template: apply(current.template, payload.edit),
        history: remember(
          current.history,
          { ...payload.edit, selection: selectionOf(current) },
          payload.now,
        ),
        save: afterEdit(current),
      };
    },
    /**
     * What was written before the page went and the server does not have: it is put on what is stored,
     * and can be undone. Where something else was saved meanwhile, both are kept until one is chosen.
     */
    recovered(
      state,
      { payload }: PayloadAction<{ version: number; template: Template }>,
    ): DeskState | undefined {
      const current = plain(state);
      const stored = current.template;
      if (!stored) return undefined;
      if (payload.version !== current.version)
        return {
          ...current,
          template: payload.template,
          version: payload.version,
          save: 'conflict',
          conflict: { version: current.version, template: stored },
        };
      const done = edit(
        stored,
        'Written before the reload',
        (draft) => void Object.assign(draft, payload.template),
      );
      if (!done) return undefined;
      const history = remember(current.history, done.edit, 0);
      return { ...current, template: done.template, history, save: 'waiting' };
    },
    undone: (state): DeskState => stepped(plain(state), undo),
    redone: (state): DeskState => stepped(plain(state), redo),
    saving(state) {
      state.save = 'saving';
    },
    saved(state, { payload }: PayloadAction<{ id: string; version: number; template: Template }>) {
      // A save that ends after another template was opened says nothing about that one.
      if (state.id !== payload.id) return;
      state.version = payload.version;
      // Edits that were made while saving still wait.
      state.save = plain(state).template === payload.template ? 'saved' : 'waiting';
      state.saveMessage = '';
    },
    saveFailed(state, { payload }: PayloadAction<{ id: string; message: string }>) {
      if (state.id !== payload.id) return;
      state.save = 'failed';
      state.saveMessage = payload.message;
    },
    conflicted(
      state,
      { payload }: PayloadAction<{ id: string; conflict: SaveConflict }>,
    ): DeskState | undefined {
      if (state.id !== payload.id) return undefined;
      return { ...plain(state), save: 'conflict', conflict: payload.conflict };
    },
    /**
     * Settles a conflict. Either way the other version is one undo away: taking theirs is an edit of
     * mine, and keeping mine counts as an edit of theirs.
     */
    settled: (state, { payload }: PayloadAction<'theirs' | 'mine'>): DeskState => {
      const current = plain(state);
      const { conflict, template, history } = current;
      if (!conflict || !template) return current;
      const isMine = payload === 'mine';
      const [from, to] = isMine ? [conflict.template, template] : [template, conflict.template];
      const done = edit(
        from,
        isMine ? 'Use my version' : 'Use the other version',
        (draft) => void Object.assign(draft, to),
      );
      return {
        ...current,
        conflict: null,
        version: conflict.version,
        template: done?.template ?? template,
        history: done ? remember(history, done.edit, 0) : history,
        save: isMine ? 'waiting' : 'saved',
      };
    },
    selected(state, { payload }: PayloadAction<string | null>) {
      state.selected = payload;
      state.also = [];
      if (state.editing !== payload) state.editing = null;
    },
    /** Selects one node more, or one less. */
    alsoSelected(state, { payload }: PayloadAction<string>) {
      const { selected, also } = state;
      state.editing = null;
      if (also.includes(payload)) state.also = also.filter((id) => id !== payload);
      else if (payload === selected) [state.selected = null, ...state.also] = also;
      else {
        state.also = selected === null || selected === 'envelope' ? [] : [...also, selected];
        state.selected = payload;
      }
    },
    /** Selects a stretch of nodes, the last of which the inspector shows. */
    stretched(state, { payload }: PayloadAction<string[]>) {
      state.editing = null;
      state.selected = payload.at(-1) ?? null;
      state.also = payload.slice(0, -1);
    },
    editing(state, { payload }: PayloadAction<string | null>) {
      state.editing = payload;
      if (payload !== null) state.selected = payload;
    },
    listed(
      state,
      { payload }: PayloadAction<{ recipients: Recipient[]; total: number; offset: number }>,
    ) {
      const isNew = payload.offset === 0;
      const before = isNew ? [] : state.recipients.slice(0, payload.offset + state.guests);
      const known = new Set(before.map(({ id }) => id));
      state.recipients = [...before, ...payload.recipients.filter(({ id }) => !known.has(id))];
      if (isNew) state.guests = 0;
      state.total = payload.total;
      state.index = Math.min(state.index, Math.max(0, state.recipients.length - 1));
    },
    /** Recipients changed in the shop: in the list, they are as they are now. */
    changedInShop(state, { payload }: PayloadAction<Recipient[]>) {
      const now = new Map(payload.map((recipient) => [recipient.id, recipient]));
      state.recipients = state.recipients.map((recipient) => now.get(recipient.id) ?? recipient);
      state.lately = payload.at(-1) ?? state.lately;
    },
    searched(
      state,
      { payload }: PayloadAction<{ search?: string; having?: Having; filter?: RecipientFilter }>,
    ) {
      state.search = payload.search ?? state.search;
      state.having = payload.having ?? state.having;
      state.filter = payload.filter ?? state.filter;
      state.index = 0;
      state.reached = 0;
    },
    /** Shows somebody; who is not in the list yet is put in front of it. */
    lookedAt(state, { payload }: PayloadAction<Recipient>) {
      const at = state.recipients.findIndex(({ id }) => id === payload.id);
      if (at < 0) {
        state.recipients = [payload, ...state.recipients];
        state.guests++;
      }
      state.index = Math.max(0, at);
    },
    /** Somebody scrolled the list of recipients down to this one. */
    reached(state, { payload }: PayloadAction<number>) {
      state.reached = Math.max(state.reached, payload);
    },
    flipped(state, { payload }: PayloadAction<number>) {
      state.index = Math.max(0, Math.min(payload, state.recipients.length - 1));
    },
    viewed(state, { payload }: PayloadAction<Partial<View>>) {
      Object.assign(state.view, payload);
    },
    asked(state, { payload }: PayloadAction<DeskAsk | null>) {
      state.asked = payload;
    },
    said(state, { payload }: PayloadAction<string>) {
      state.said = payload;
    },
    becauseToggled(state) {
      state.becauseOpen = !state.becauseOpen;
    },
  },
});

function stepped(state: DeskState, step: typeof undo): DeskState {
  const done = state.template && step(state.template, state.history);
  if (!done) return state;
  return {
    ...state,
    ...(state.template && selectedAfter(state, state.template, done)),
    template: done.template,
    history: done.history,
    save: afterEdit(state),
  };
}

export const deskActions = deskSlice.actions;
