import { Checkbox, NumberInput, Select, Switch } from '@mantine/core';
import type { Block, BlockOf, LinesColumn } from '@carafe/core/template';
import { RichField } from '../../../parts/words/WordsEditor';
import { useEdit } from '../useEdit';
import { CardsForm } from './CardsForm';
import { LabelledLine } from './Labelled';
import { ListItems } from './ListItems';
import { TotalsForm } from './TotalsForm';

/** What a block says, by its kind. */
export function BlockForm({ block }: { block: Block }) {
  switch (block.kind) {
    case 'text':
      return <TextForm block={block} />;
    case 'heading':
      return <HeadingForm block={block} />;
    case 'picture':
      return <PictureForm block={block} />;
    case 'button':
      return <ButtonForm block={block} />;
    case 'cards':
      return <CardsForm block={block} />;
    case 'lines':
      return <LinesForm block={block} />;
    case 'totals':
      return <TotalsForm block={block} />;
    case 'spacer':
      return <SpacerForm block={block} />;
    case 'divider':
      return <p className="quiet">A thin line across the column.</p>;
  }
}

function TextForm({ block }: { block: BlockOf<'text'> }) {
  const { changeById } = useEdit();
  return (
    <RichField
      label="Text"
      value={block.text}
      onChange={(text) =>
        changeById<typeof block>(block.id, 'Edit the text', (b) => void (b.text = text))
      }
    />
  );
}

function HeadingForm({ block }: { block: BlockOf<'heading'> }) {
  const { changeById } = useEdit();
  return (
    <>
      <LabelledLine
        label="Heading"
        value={block.text}
        onChange={(text) =>
          changeById<typeof block>(block.id, 'Edit the heading', (b) => void (b.text = text))
        }
      />
      <Select
        label="Level"
        value={String(block.level)}
        allowDeselect={false}
        data={[
          { value: '1', label: 'First: the mail’s own' },
          { value: '2', label: 'Second: a part’s' },
          { value: '3', label: 'Third: a small one' },
        ]}
        onChange={(level) =>
          changeById<typeof block>(
            block.id,
            'Change the level',
            (b) => void (b.level = Number(level) as 1 | 2 | 3),
          )
        }
      />
    </>
  );
}

function PictureForm({ block }: { block: BlockOf<'picture'> }) {
  const { changeById } = useEdit();
  const put = (says: string, recipe: (b: typeof block) => void) =>
    changeById(block.id, says, recipe);
  return (
    <>
      <LabelledLine
        label="Address"
        value={block.src}
        onChange={(src) => put('Edit the address', (b) => void (b.src = src))}
      />
      <LabelledLine
        label="Said instead of it"
        description="Read aloud, and shown while pictures are off"
        value={block.alt}
        onChange={(alt) => put('Edit what is said', (b) => void (b.alt = alt))}
      />
      <LabelledLine
        label="Links to"
        value={block.href ?? ''}
        onChange={(href) => put('Edit the link', (b) => void (b.href = href || undefined))}
      />
      <NumberInput
        label="Width"
        suffix=" px"
        min={8}
        max={1200}
        placeholder="As wide as its column"
        value={block.width ?? ''}
        onChange={(width) =>
          put(
            'Change the width',
            (b) =>
              void (b.width =
                typeof width === 'number' && width >= 8 ? Math.round(width) : undefined),
          )
        }
      />
    </>
  );
}

function ButtonForm({ block }: { block: BlockOf<'button'> }) {
  const { changeById } = useEdit();
  const put = (says: string, recipe: (b: typeof block) => void) =>
    changeById(block.id, says, recipe);
  return (
    <>
      <LabelledLine
        label="Label"
        value={block.label}
        onChange={(label) => put('Edit the label', (b) => void (b.label = label))}
      />
      <LabelledLine
        label="Links to"
        value={block.href}
        onChange={(href) => put('Edit the link', (b) => void (b.href = href))}
      />
    </>
  );
}

function SpacerForm({ block }: { block: BlockOf<'spacer'> }) {
  const { changeById } = useEdit();
  return (
    <NumberInput
      label="Height"
      suffix=" px"
      min={1}
      max={200}
      value={block.height}
      onChange={(height) =>
        typeof height === 'number' &&
        height >= 1 &&
        changeById<typeof block>(
          block.id,
          'Change the height',
          (b) => void (b.height = Math.min(200, Math.round(height))),
        )
      }
    />
  );
}

const COLUMN_NAMES: Record<LinesColumn['show'], string> = {
  picture: 'Picture',
  item: 'Item',
  quantity: 'Quantity',
  price: 'Price of one',
  total: 'Total',
};

function LinesForm({ block }: { block: BlockOf<'lines'> }) {
  const { changeById } = useEdit();
  const put = (says: string, recipe: (b: typeof block) => void) =>
    changeById(block.id, says, recipe);
  const shown = new Set(block.columns.map((column) => column.show));
  const absent = (Object.keys(COLUMN_NAMES) as LinesColumn['show'][]).filter(
    (show) => !shown.has(show),
  );
  return (
    <>
      <ListItems
        items={block.columns}
        nameOf={({ show }) => COLUMN_NAMES[show]}
        onChange={(columns) => put('Order the columns', (b) => void (b.columns = columns))}
        render={(column, i) =>
          column.show === 'picture' ? null : (
            <LabelledLine
              label="Heading of the column"
              value={column.heading}
              onChange={(heading) =>
                put('Edit a heading', (b) => void (b.columns[i] = { ...column, heading }))
              }
            />
          )
        }
      />
      {absent.map((show) => (
        <Checkbox
          key={show}
          size="xs"
          checked={false}
          label={`Show ${COLUMN_NAMES[show].toLowerCase()}`}
          onChange={() =>
            put('Add a column', (b) => void b.columns.push({ show, heading: COLUMN_NAMES[show] }))
          }
        />
      ))}
      <Switch
        label="Variant under the name"
        checked={block.variant}
        onChange={({ currentTarget: { checked } }) =>
          put('Show the variant', (b) => void (b.variant = checked))
        }
      />
      <Switch
        label="What was engraved, noted or chosen"
        checked={block.properties}
        onChange={({ currentTarget: { checked } }) =>
          put('Show the properties', (b) => void (b.properties = checked))
        }
      />
    </>
  );
}
