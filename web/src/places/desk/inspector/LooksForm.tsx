import { ColorInput, Group, NumberInput, SegmentedControl } from '@mantine/core';
import type { Block } from '@carafe/core/template';
import { useEdit } from '../useEdit';

type Aligned = Extract<Block, { kind: 'text' | 'heading' | 'picture' | 'button' | 'cards' }>;
type Padded = Exclude<Block, { kind: 'spacer' }>;
type Coloured = Extract<Block, { kind: 'text' | 'heading' }>;

const ALIGNED = new Set(['text', 'heading', 'picture', 'button', 'cards']);

/** Alignment, room above and below, and colour. */
export function LooksForm({ block }: { block: Block }) {
  const { changeById } = useEdit();
  if (block.kind === 'spacer') return null;
  const pad = (side: 'top' | 'bottom') => (value: string | number) => {
    if (typeof value !== 'number') return;
    changeById<Padded>(block.id, 'Change the room', (b) => {
      b.padding = {
        top: 8,
        bottom: 8,
        ...b.padding,
        [side]: Math.max(0, Math.min(200, Math.round(value))),
      };
    });
  };
  const coloured = block.kind === 'text' || block.kind === 'heading';
  return (
    <>
      {ALIGNED.has(block.kind) && (
        <SegmentedControl
          size="xs"
          aria-label="Alignment"
          value={(block as Aligned).align ?? (block.kind === 'picture' ? 'center' : 'left')}
          data={[
            { value: 'left', label: 'Left' },
            { value: 'center', label: 'Middle' },
            { value: 'right', label: 'Right' },
          ]}
          onChange={(align) =>
            changeById<Aligned>(
              block.id,
              'Align',
              (b) => void (b.align = align as Aligned['align']),
            )
          }
        />
      )}
      <Group gap={8} grow>
        <NumberInput
          label="Room above"
          suffix=" px"
          min={0}
          max={200}
          value={block.padding?.top ?? ''}
          placeholder="Usual"
          onChange={pad('top')}
        />
        <NumberInput
          label="Room below"
          suffix=" px"
          min={0}
          max={200}
          value={block.padding?.bottom ?? ''}
          placeholder="Usual"
          onChange={pad('bottom')}
        />
      </Group>
      {coloured && (
        <ColorInput
          size="xs"
          label="Colour of the words"
          placeholder="As the house has it"
          value={block.colour ?? ''}
          onChange={(value) =>
            changeById<Coloured>(block.id, 'Change the colour', (b) => {
              if (value === '') delete b.colour;
              else if (/^#[0-9a-f]{6}$/i.test(value)) b.colour = value;
            })
          }
        />
      )}
    </>
  );
}
