import { SegmentedControl } from '@mantine/core';
import { nanoid } from 'nanoid';
import type { Section, TemplateNode } from '@carafe/core/template';
import { useEdit } from '../useEdit';

/** How many columns a section has. */
export function Form({ node }: { node: TemplateNode }) {
  const { changeById } = useEdit();
  if (node.kind !== 'section') return null;
  const setColumns = (count: number) =>
    changeById<Section>(node.id, 'Change the columns', (section) => {
      while (section.columns.length < count)
        section.columns.push({ kind: 'column', id: nanoid(8), blocks: [] });
      while (section.columns.length > count) {
        // What stood in a column that goes is kept: it moves to the end of the one before.
        const gone = section.columns.pop();
        section.columns.at(-1)?.blocks.push(...(gone?.blocks ?? []));
      }
    });
  return (
    <div>
      <div className="label">Columns</div>
      <SegmentedControl
        size="xs"
        fullWidth
        aria-label="Columns"
        value={String(node.columns.length)}
        data={['1', '2', '3', '4']}
        onChange={(count) => setColumns(Number(count))}
      />
    </div>
  );
}
