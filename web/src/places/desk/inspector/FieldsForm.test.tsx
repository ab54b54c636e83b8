/** @jest-environment jsdom */
import { useState } from 'react';
import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { BLOCKS, putAt, type NodeField } from '@carafe/core/blocks';
import { createNextState } from '@reduxjs/toolkit';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import { fakeServer, isFor, renderPart } from '../../../testing';
import { FieldsForm } from './FieldsForm';

/** What a kind of node that nobody has heard of says of its fields: one of every control. */
const FIELDS: NodeField[] = [
  { control: 'line', path: 'caption', label: 'Caption', holds: 'text' },
  { control: 'plain', path: 'mark', label: 'Mark', optional: true },
  { control: 'number', path: 'looks.width', label: 'Line', least: 1, most: 9, unit: 'px' },
  {
    control: 'choice',
    path: 'side',
    label: 'Side',
    options: [
      { value: 1, label: 'One' },
      { value: 2, label: 'Two' },
    ],
  },
  { control: 'switch', path: 'round', label: 'Round', optional: true },
  { control: 'colour', path: 'colour', label: 'Colour', optional: true },
  {
    control: 'list',
    path: 'notes',
    label: 'Notes',
    least: 1,
    most: 3,
    addLabel: 'Add a note',
    kinds: [
      {
        name: 'Note',
        make: () => ({ words: 'new' }),
        fields: [{ control: 'plain', path: 'words', label: 'Words' }],
      },
    ],
  },
] as NodeField[];

const NODE = {
  ...{ caption: 'For you', looks: { width: 2 }, side: 1, round: true, colour: '#aabbcc' },
  notes: [{ words: 'a' }, { words: 'b' }],
};

/** Shows the form, and keeps what it puts. */
function shown(fields = FIELDS, start: object = NODE) {
  const kept: { node: Record<string, unknown>; labels: string[] } = {
    node: { ...start },
    labels: [],
  };
  function Form() {
    const [node, setNode] = useState<object>(start);
    return (
      <FieldsForm
        owner={node}
        fields={fields}
        inList={{ shape: { kind: 'any' }, frames: [] } as never}
        as="it"
        onPut={(path, value, label, also = {}) => {
          const next = createNextState(node, (draft) => {
            putAt(draft, path, value);
            for (const [other, given] of Object.entries(also)) putAt(draft, other, given);
          });
          kept.node = next as Record<string, unknown>;
          kept.labels.push(label);
          setNode(next);
        }}
      />
    );
  }
  renderPart(<Form />);
  return kept;
}

describe('the form of any kind of node', () => {
  it('has a control for each of its fields, with what it holds', () => {
    shown();
    expect(screen.getByRole('textbox', { name: 'Caption' })).toHaveProperty(
      'textContent',
      'For you',
    );
    expect(screen.getByRole('textbox', { name: 'Line' })).toHaveProperty('value', '2 px');
    expect(screen.getByRole('radio', { name: 'One' })).toHaveProperty('checked', true);
    expect(screen.getByRole('switch', { name: 'Round' })).toHaveProperty('checked', true);
    expect(screen.getAllByRole('textbox', { name: 'Words' })).toHaveLength(2);
  });

  it('puts what is typed at its path, and says what was edited', async () => {
    const kept = shown();
    await userEvent.type(screen.getByRole('textbox', { name: 'Mark' }), 'x');
    expect(kept.node['mark']).toBe('x');
    expect(kept.labels).toEqual(['Edit mark']);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Mark' }));
    expect('mark' in kept.node).toBe(false);
  });

  it('takes numbers within their bounds, and none that is out of them', () => {
    const kept = shown();
    const line = screen.getByRole('textbox', { name: 'Line' });
    fireEvent.change(line, { target: { value: '7' } });
    expect(kept.node['looks']).toEqual({ width: 7 });
    fireEvent.change(line, { target: { value: '700' } });
    expect(kept.node['looks']).toEqual({ width: 9 });
    fireEvent.change(line, { target: { value: '' } });
    fireEvent.change(line, { target: { value: '0' } });
    expect(kept.node['looks']).toEqual({ width: 9 });
  });

  it('keeps a choice as what it is, not as its label', async () => {
    const kept = shown();
    await userEvent.click(screen.getByText('Two'));
    expect(kept.node['side']).toBe(2);
  });

  it('leaves out what can be left out', async () => {
    const kept = shown();
    await userEvent.click(screen.getByRole('switch', { name: 'Round' }));
    expect('round' in kept.node).toBe(false);
    fireEvent.change(screen.getByRole('textbox', { name: 'Colour' }), { target: { value: '' } });
    expect('colour' in kept.node).toBe(false);
  });

  it('takes no half a colour', () => {
    const kept = shown();
    const colour = screen.getByRole('textbox', { name: 'Colour' });
    fireEvent.change(colour, { target: { value: '#12' } });
    expect(kept.node['colour']).toBe('#aabbcc');
    fireEvent.change(colour, { target: { value: '#123456' } });
    expect(kept.node['colour']).toBe('#123456');
  });

  describe('with a list', () => {
    const notes = () => screen.getByRole('group', { name: 'Notes' });

    it('edits one member and leaves the others', () => {
      const kept = shown();
      const [, second] = within(notes()).getAllByRole('textbox', { name: 'Words' });
      if (second) fireEvent.change(second, { target: { value: 'B' } });
      expect(kept.node['notes']).toEqual([{ words: 'a' }, { words: 'B' }]);
    });

    it('adds up to the most, and removes down to the least', async () => {
      const kept = shown();
      await userEvent.click(screen.getByRole('button', { name: 'Add a note' }));
      expect(kept.node['notes']).toEqual([{ words: 'a' }, { words: 'b' }, { words: 'new' }]);
      expect(screen.queryByRole('button', { name: 'Add a note' })).toBeNull();
      const remove = () => within(notes()).getAllByRole('button', { name: 'Remove Note' })[0];
      for (let i = 0; i < 2; i++) await userEvent.click(remove() as HTMLElement);
      expect(kept.node['notes']).toEqual([{ words: 'new' }]);
      expect(remove()).toHaveProperty('disabled', true);
    });

    it('has a handle for each member, which keys move', () => {
      shown();
      const [handle] = within(notes()).getAllByRole('button', { name: 'Reorder Note' });
      expect(handle?.getAttribute('aria-roledescription')).toBe('sortable');
      expect(handle?.tabIndex).toBe(0);
    });
  });
});

describe('a picture that is chosen', () => {
  const bed = {
    ...{ id: 'bed1', name: 'The long bed', alt: 'Lupins in June', tags: [] },
    ...{ width: 1200, height: 800, bytes: 1, type: 'jpeg', version: 1, made_at: '' },
    ...{ focus: { x: 0.5, y: 0.5, zoom: 1 }, used_by: [] },
  };
  beforeEach(() => {
    store.dispatch(api.util.resetApiState());
    const pictures = [bed, { ...bed, id: 'shed', name: 'The shed', alt: '' }];
    fakeServer((sent) => (isFor(ENDPOINTS.listPictures, sent) ? { body: { pictures } } : {}));
  });
  const choose = async (name: string) => {
    fireEvent.click(screen.getByText('Choose from the library'));
    fireEvent.click(await screen.findByText(name));
  };
  const OLD = { src: 'https://q.example/a.png', alt: 'A cold frame' };

  it.each([
    ['The long bed', '{{ shop.pictures }}/library/bed1/1200x800', 'Lupins in June'],
    // What was said of the picture before is not said of it.
    ['The shed', '{{ shop.pictures }}/library/shed/1200x800', ''],
  ])('%s brings what is said of it', async (name, src, alt) => {
    const kept = shown(BLOCKS.picture.fields as unknown as NodeField[], OLD);
    await choose(name);
    expect(kept.node).toEqual({ src, alt });
    expect(kept.labels).toEqual(['Choose picture']);
  });

  it('does so as a member of a list, too', async () => {
    const kept = shown(BLOCKS.gallery.fields as unknown as NodeField[], { pictures: [OLD] });
    await choose('The long bed');
    expect(kept.node['pictures']).toEqual([
      { src: '{{ shop.pictures }}/library/bed1/1200x800', alt: 'Lupins in June' },
    ]);
  });
});
