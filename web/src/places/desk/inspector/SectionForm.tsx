import { ColorInput, Group, SegmentedControl, TextInput } from '@mantine/core';
import { nanoid } from 'nanoid';
import type { Section, TemplateNode } from '@carafe/core/template';
import { useEdit } from '../useEdit';

/** The name, the ground and the columns of a section. */
export function SectionForm({ node }: { node: TemplateNode }) {
  const { changeById } = useEdit();
  if (node.kind !== 'section') return null;
  const put = (says: string, recipe: (section: Section) => void) =>
    changeById<Section>(node.id, says, recipe);
  const setColumns = (count: number) =>
    put('Change the columns', (section) => {
      while (section.columns.length < count)
        section.columns.push({ kind: 'column', id: nanoid(8), blocks: [] });
      while (section.columns.length > count) {
        // What stood in a column that goes is kept: it moves to the end of the one before.
        const gone = section.columns.pop();
        section.columns.at(-1)?.blocks.push(...(gone?.blocks ?? []));
      }
    });
  return (
    <>
      <TextInput
        label="Name"
        description="For the outline; nobody else sees it"
        value={node.name ?? ''}
        onChange={({ currentTarget: { value } }) =>
          put('Rename the section', (s) => void (s.name = value || undefined))
        }
      />
      <Group gap={8} grow align="flex-end">
        <ColorInput
          size="xs"
          label="Ground"
          placeholder="Paper"
          value={node.background ?? ''}
          onChange={(value) => {
            if (value === '') put('Change the ground', (s) => void delete s.background);
            else if (/^#[0-9a-f]{6}$/i.test(value))
              put('Change the ground', (s) => void (s.background = value));
          }}
        />
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
      </Group>
    </>
  );
}
