import type { NodeKind } from '../blocks/define';
import { OWN_NAME, SPACE } from '../blocks/fields';

/** What is said of the nodes that blocks stand in. */
export const section: NodeKind<{ name?: string | undefined }> = {
  kind: 'section',
  name: 'Section',
  description: 'A full-width section of the email.',
  icon: 'M4 5h16v5H4z M4 14h16v5H4z',
  fields: [
    OWN_NAME,
    {
      control: 'colour',
      path: 'background',
      label: 'Background',
      placeholder: 'House style',
      optional: true,
    },
    {
      control: 'choice',
      as: 'menu',
      path: 'stacking',
      label: 'Columns on a phone',
      part: 'looks',
      optional: true,
      initial: 'stack',
      options: [
        { value: 'stack', label: 'One below the other' },
        { value: 'last_first', label: 'One below the other, the last first' },
        { value: 'beside', label: 'Side by side, as on a desktop' },
      ],
    },
    ...SPACE,
  ],
  children: [{ at: 'columns', accepts: 'column', least: 1, most: 4 }],
  label: (node) => node.name ?? 'Section',
};

export const column: NodeKind<object> = {
  kind: 'column',
  name: 'Column',
  description: 'Part of a section’s width.',
  icon: 'M4 5h6v14H4z M14 5h6v14h-6z',
  fields: [
    {
      control: 'number',
      path: 'width',
      label: 'Width',
      placeholder: 'Share of the remaining width',
      optional: true,
      least: 5,
      most: 100,
      unit: '%',
    },
    {
      control: 'colour',
      path: 'background',
      label: 'Background',
      placeholder: 'The section’s',
      part: 'looks',
      optional: true,
    },
  ],
  children: [{ at: 'blocks', accepts: 'block', most: 100 }],
  label: () => 'Column',
};

/** The width of each column in percent: what is asked for, the rest shared out evenly. */
export function columnWidths(columns: readonly { width?: number | undefined }[]): number[] {
  const asked = columns.reduce((sum, c) => sum + (c.width ?? 0), 0);
  const open = columns.filter((c) => c.width === undefined).length;
  const share = open > 0 ? Math.max(5, (100 - asked) / open) : 0;
  return columns.map((c) => Math.round((c.width ?? share) * 100) / 100);
}
