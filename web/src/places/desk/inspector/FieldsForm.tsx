import { memo, type ComponentProps } from 'react';
import { NumberInput, SegmentedControl, Select, Switch, Textarea, TextInput } from '@mantine/core';
import { valueAt, type NodeField } from '@carafe/core/blocks';
import { pictureAddress } from '@carafe/core/picture';
import type { RichText } from '@carafe/core/template';
import { ColourField } from '../../../parts/ColourField';
import { FormulaField } from '../../../parts/formula/FormulaField';
import { ScopeProvider, useScope, type Scope } from '../../../parts/words/scope';
import { RichField } from '../../../parts/words/WordsEditor';
import { PictureField } from '../../../parts/pictures/PictureField';
import { LabelledLine } from '../../../parts/LabelledLine';
import { ProductChoice } from '../../../parts/ProductChoice';
import { useAppSelector } from '../../../app/store';
import { ListForm } from './ListForm';
import type { Put } from './put';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

interface Props {
  /** The node, or a member of one of its lists. */
  owner: object;
  fields: readonly NodeField[];
  /** What fields inside the node's own list can name. */
  inList: Scope;
  /** The name of a member of the node's own list. */
  as: string;
  onPut: Put;
}

/** The form of a node, made from what its kind says of its fields. */
export function FieldsForm({ owner, fields, inList, as, onPut }: Props) {
  const outer = useScope();
  return (
    <>
      {fields.map((field) => (
        <ScopeProvider key={field.path} value={field.inList ? inList : outer}>
          <Control
            field={field}
            value={valueAt(owner, field.path)}
            as={as}
            inList={inList}
            put={onPut}
          />
        </ScopeProvider>
      ))}
    </>
  );
}

const NO_MEMBERS: object[] = [];
const MONOSPACED = { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 };

interface ControlProps {
  field: NodeField;
  value: unknown;
  as: string;
  inList: Scope;
  put: Put;
}

/** What is shown where nothing is given, and why. */
const hints = ({ help, placeholder }: NodeField) => ({
  ...(help && { description: help }),
  ...(placeholder && { placeholder }),
});

/** A product of the shop that the template is for. */
function ProductOfShop(given: Omit<ComponentProps<typeof ProductChoice>, 'shop'>) {
  const shop = useAppSelector((s) => s.desk.template?.shop);
  return <ProductChoice shop={shop} {...given} />;
}

/** One field; it is drawn anew only when its own value changed. */
const Control = memo(function Control({ field, value, as, inList, put }: ControlProps) {
  const { shape, frames } = useScope();
  const { label, optional = false } = field;
  const onPut = (given: unknown) => put(field.path, given, `Edit ${label.toLowerCase()}`);
  /** An empty field that can be left out is left out. */
  const putText = (text: string) => onPut(optional && text.trim() === '' ? undefined : text);
  switch (field.control) {
    case 'line':
      if (field.holds === 'html')
        return (
          <Textarea
            label={label}
            {...hints(field)}
            autosize
            minRows={6}
            maxRows={20}
            spellCheck={false}
            styles={{ input: MONOSPACED }}
            value={String(value ?? '')}
            onChange={({ currentTarget }) => putText(currentTarget.value)}
          />
        );
      if (field.holds === 'picture')
        return (
          <PictureField
            label={label}
            value={String(value ?? '')}
            onChange={putText}
            // What is said of the picture before is not said of this one.
            onChosen={(one) =>
              put(
                ...([
                  field.path,
                  pictureAddress(one),
                  t('chooseLabel', { label: label.toLowerCase() }),
                ] as const),
                field.alt === undefined ? {} : { [field.alt]: one.alt },
              )
            }
          />
        );
      return (
        <LabelledLine
          label={label}
          {...hints(field)}
          value={String(value ?? '')}
          onChange={putText}
        />
      );
    case 'rich':
      return <RichField label={label} value={value as RichText} onChange={onPut} />;
    case 'plain':
      return (
        <TextInput
          label={label}
          {...hints(field)}
          value={String(value ?? '')}
          onChange={({ currentTarget }) => putText(currentTarget.value)}
        />
      );
    case 'product':
      return (
        <ProductOfShop
          label={label}
          {...(field.placeholder !== undefined && { placeholder: field.placeholder })}
          value={String(value ?? '')}
          onChange={putText}
        />
      );
    case 'formula':
      return (
        <FormulaField
          label={label}
          {...hints(field)}
          value={String(value ?? '')}
          use={field.use}
          shape={shape}
          frames={frames}
          onChange={putText}
        />
      );
    case 'number':
      return (
        <NumberInput
          label={label}
          {...hints(field)}
          suffix={` ${field.unit}`}
          min={field.least}
          max={field.most}
          value={typeof value === 'number' ? value : ''}
          onChange={(given) => {
            if (given === '' && optional) onPut(undefined);
            else if (typeof given === 'number' && given >= field.least)
              onPut(Math.min(field.most, Math.round(given)));
          }}
        />
      );
    case 'choice': {
      const chosen = (text: string | null) => {
        const option = field.options.find((one) => String(one.value) === text);
        if (option) onPut(option.value);
      };
      const data = field.options.map((one) => ({ value: String(one.value), label: one.label }));
      const now = String(value ?? field.initial ?? '');
      if (field.as === 'menu')
        return (
          <Select
            label={label}
            {...hints(field)}
            value={now}
            data={data}
            allowDeselect={false}
            onChange={chosen}
          />
        );
      return (
        <div>
          <div className="label">{label}</div>
          <SegmentedControl
            size="xs"
            fullWidth
            aria-label={label}
            value={now}
            data={data}
            onChange={chosen}
          />
        </div>
      );
    }
    case 'switch':
      return (
        <Switch
          label={label}
          checked={value === true}
          onChange={({ currentTarget: { checked } }) =>
            onPut(optional && !checked ? undefined : checked)
          }
        />
      );
    case 'colour':
      return (
        <ColourField
          label={label}
          {...hints(field)}
          optional={optional}
          value={value as string | undefined}
          onChange={onPut}
        />
      );
    case 'list':
      return (
        <ListForm
          field={field}
          members={(value as object[] | undefined) ?? NO_MEMBERS}
          as={as}
          onChange={(members) => onPut(optional && members.length === 0 ? undefined : members)}
        >
          {(form) => <FieldsForm {...form} as={as} inList={inList} />}
        </ListForm>
      );
  }
});
