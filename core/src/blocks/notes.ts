import { z } from 'zod';
import { NOTE_PLACES, noteHolds, ProductNote, type NotePlace } from '../library/notes';
import { common, looks } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';
import { noteHtml, notePlain } from './noteHtml';

const schema = z.strictObject({
  kind: z.literal('notes'),
  ...common,
  ...looks,
  place: z.enum(NOTE_PLACES).exclude(['line']),
  /** The notes of the shop that are for this place, put in before the template is built. */
  shown: z.array(ProductNote).max(500).optional(),
});

/** What each place is called; notes below a line are shown by the table of lines. */
export const PLACE_NAMES: Record<NotePlace, string> = {
  before: 'Before the lines',
  line: 'Under the line',
  after: 'After the lines',
  address: 'Under the address',
};

export const notes = defineBlock({
  kind: 'notes',
  name: 'Product notes',
  description: 'Notes from the library about the ordered products.',
  words: ['instructions', 'care'],
  icon: 'M6 3h9l4 4v14H6z M9 10h7 M9 14h7 M9 18h4',
  schema,
  make: (id) => ({ kind: 'notes' as const, id, place: 'after' as const }),
  fields: [
    {
      control: 'choice',
      as: 'menu',
      path: 'place',
      label: 'Notes that are for',
      options: (['before', 'after', 'address'] as const).map((value) => ({
        value,
        label: PLACE_NAMES[value],
      })),
    },
    ...SPACE,
  ],
  label: ({ place }) => `Notes: ${PLACE_NAMES[place].toLowerCase()}`,
  derived: ({ shown = [] }) =>
    shown.map((note) => ({
      path: 'shown',
      source: noteHolds(note),
      use: 'value' as const,
      inList: false,
    })),
  mjml(block, writer) {
    const cells = (block.shown ?? []).map((note) =>
      writer.when(
        noteHolds(note),
        'shown',
        `<tr><td style="padding:${writer.padding(block.padding)}">${noteHtml(note, writer)}</td></tr>`,
      ),
    );
    return cells.length === 0 ? '' : `<mj-raw>${cells.join('')}</mj-raw>`;
  },
  text: (block, writer) =>
    (block.shown ?? [])
      .map((note) => writer.when(noteHolds(note), 'shown', `${notePlain(note, writer)}\n\n`))
      .join(''),
});
