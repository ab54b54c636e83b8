import { Button, Menu, SegmentedControl, Select } from '@mantine/core';
import { IconPlus } from '@tabler/icons-react';
import type { BlockOf, CardField } from '@carafe/core/template';
import { FormulaField } from '../../../parts/FormulaField';
import { ScopeProvider, useScope } from '../../../parts/words/scope';
import { useEdit } from '../useEdit';
import { useLoopScope, useNodeScope } from '../useNodeScope';
import { LabelledLine } from './Labelled';
import { ListItems } from './ListItems';

const NAMES: Record<CardField['show'], string> = {
  picture: 'Picture',
  words: 'Words',
  price: 'Price',
  button: 'Button',
};

/** A new field of a card, tied to the member by its name. */
function newField(show: CardField['show'], as: string): CardField {
  switch (show) {
    case 'picture':
      return { show, src: `{{ ${as}.image }}`, alt: `{{ ${as}.name }}`, href: `{{ ${as}.url }}` };
    case 'words':
      return { show, text: `{{ ${as}.description }}`, weight: 'quiet' };
    case 'price':
      return { show, price: `${as}.price`, was: `${as}.was_price` };
    case 'button':
      return { show, label: 'See it', href: `{{ ${as}.url }}` };
  }
}

/** How many cards stand side by side, and what each shows, in which order. */
export function CardsForm({ block }: { block: BlockOf<'cards'> }) {
  const { changeById } = useEdit();
  const { outerLoops } = useNodeScope(block.id);
  const scope = useLoopScope([...outerLoops, ...(block.loop ? [block.loop] : []), block.items]);
  const put = (says: string, recipe: (b: BlockOf<'cards'>) => void) =>
    changeById(block.id, says, recipe);
  const putField = (i: number, field: CardField) =>
    put('Edit a card', (b) => void (b.fields[i] = field));
  return (
    <ScopeProvider value={scope}>
      <div>
        <div className="label">Side by side</div>
        <SegmentedControl
          size="xs"
          fullWidth
          aria-label="Cards side by side"
          value={String(block.columns)}
          data={['1', '2', '3', '4']}
          onChange={(value) => put('Change the columns', (b) => void (b.columns = Number(value)))}
        />
      </div>
      <ListItems
        items={block.fields}
        nameOf={(field) => NAMES[field.show]}
        onChange={(fields) => put('Order the card', (b) => void (b.fields = fields))}
        render={(field, i) => <FieldForm field={field} onChange={(next) => putField(i, next)} />}
      />
      <Menu>
        <Menu.Target>
          <Button
            variant="default"
            leftSection={<IconPlus size={14} />}
            disabled={block.fields.length >= 12}
          >
            Show more on each card
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {(Object.keys(NAMES) as CardField['show'][]).map((show) => (
            <Menu.Item
              key={show}
              onClick={() =>
                put('Add to the card', (b) => void b.fields.push(newField(show, b.items.as)))
              }
            >
              {NAMES[show]}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </ScopeProvider>
  );
}

function FieldForm({
  field,
  onChange,
}: {
  field: CardField;
  onChange: (field: CardField) => void;
}) {
  switch (field.show) {
    case 'picture':
      return (
        <>
          <LabelledLine
            label="Picture address"
            value={field.src}
            onChange={(src) => onChange({ ...field, src })}
          />
          <LabelledLine
            label="Said instead of it"
            value={field.alt}
            onChange={(alt) => onChange({ ...field, alt })}
          />
        </>
      );
    case 'words':
      return (
        <>
          <LabelledLine
            label="Words"
            value={field.text}
            onChange={(text) => onChange({ ...field, text })}
          />
          <Select
            label="Weight"
            mt={6}
            value={field.weight}
            allowDeselect={false}
            data={[
              { value: 'strong', label: 'Strong' },
              { value: 'plain', label: 'Plain' },
              { value: 'quiet', label: 'Quiet' },
            ]}
            onChange={(weight) => onChange({ ...field, weight: weight as typeof field.weight })}
          />
        </>
      );
    case 'price':
      return <PriceForm field={field} onChange={onChange} />;
    case 'button':
      return (
        <>
          <LabelledLine
            label="Label"
            value={field.label}
            onChange={(label) => onChange({ ...field, label })}
          />
          <LabelledLine
            label="Address"
            value={field.href}
            onChange={(href) => onChange({ ...field, href })}
          />
        </>
      );
  }
}

function PriceForm({
  field,
  onChange,
}: {
  field: CardField & { show: 'price' };
  onChange: (field: CardField) => void;
}) {
  const scope = useScope();
  return (
    <>
      <FormulaField
        label="Price"
        value={field.price}
        use="value"
        shape={scope.shape}
        frames={scope.frames}
        onChange={(price) => onChange({ ...field, price })}
      />
      <FormulaField
        label="Price before"
        placeholder="None"
        value={field.was ?? ''}
        use="value"
        shape={scope.shape}
        frames={scope.frames}
        onChange={(was) =>
          onChange(was.trim() === '' ? { show: 'price', price: field.price } : { ...field, was })
        }
      />
    </>
  );
}
