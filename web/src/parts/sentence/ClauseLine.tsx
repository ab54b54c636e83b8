import { useCallback, useEffect, useRef, useState } from 'react';
import { ActionIcon, Autocomplete, NativeSelect, NumberInput, TagsInput } from '@mantine/core';
import { DateInput } from '@mantine/dates';
import { IconX } from '@tabler/icons-react';
import type { ScopeFrame } from '@carafe/core/formula';
import {
  comparisonNamed,
  comparisonsFor,
  type Clause,
  type Comparison,
} from '@carafe/core/sentence';
import { fieldLabel, type FieldPath, type Shape } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { clauseFields, kindOf } from './fields';
import classes from './sentence.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

/** A list of suggestions is as wide as the longest of them. */
const AS_WIDE_AS_ITS_WORDS = { width: 'max-content', position: 'bottom-start' } as const;
const MOST_SUGGESTED = 100;

/** What a field is called that no list offers. */
function labelOf(field: string): string {
  const measured = /^length\((.+)\)$/.exec(field)?.[1];
  return measured === undefined
    ? fieldLabel(field)
    : t('lengthOfMeasured', { measured: fieldLabel(measured).toLowerCase() });
}

interface Props {
  clause: Clause;
  shape: Shape;
  frames: readonly ScopeFrame[];
  choices: readonly FieldPath[];
  /** What the members are called whose fields these are; null for the record's own. */
  member: string | null;
  onField: (field: string) => void;
  onChange: (clause: Clause) => void;
  onRemove: () => void;
}

/** One condition on one field: field, comparison and value, each a slot of the sentence. */
export function ClauseLine({
  clause,
  shape,
  frames,
  choices,
  member,
  onField,
  onChange,
  onRemove,
}: Props) {
  const { field, comparison, values } = clause;
  const known = comparisonNamed(comparison);
  const found = choices.find(({ path }) => path === field);
  const fits = comparisonsFor(kindOf(choices, field));
  // A comparison that another kind of field would have stays, so that nothing is changed by looking.
  const offered = known && !fits.includes(known) ? [known, ...fits] : fits;
  // A new condition asks for its field at once, and goes on to how it is compared.
  const [isNew] = useState(field === '');
  const compared = useRef<HTMLSelectElement>(null);
  const goOn = useRef(false);
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!goOn.current || field === '') return;
    goOn.current = false;
    // Words are most often asked for as they are; of anything else, how it is compared matters first.
    const value = line.current?.querySelector<HTMLElement>(`input[aria-label^="Value"]`);
    if (kindOf(choices, field) === 'text' && value) value.focus();
    else compared.current?.focus();
  }, [field, choices]);
  const expand = useCallback(
    (path: FieldPath) =>
      clauseFields(path).map((one) => (member === null ? one : { ...one, group: member })),
    [member],
  );
  const label = field === '' ? t('chooseAField2') : (found?.label ?? labelOf(field));
  return (
    <div ref={line} className={classes.clause}>
      <FieldPicker
        shape={shape}
        frames={frames}
        expand={expand}
        startOpen={isNew}
        onPick={({ path }) => {
          goOn.current = true;
          onField(path);
        }}
      >
        <button
          type="button"
          className={classes.field}
          data-open={field === '' || undefined}
          aria-label={field === '' ? t('chooseAField') : t('fieldLabel', { label })}
          title={field}
        >
          {label}
        </button>
      </FieldPicker>
      <div className={classes.rest}>
        {field !== '' && (
          <NativeSelect
            ref={compared}
            size="xs"
            variant="unstyled"
            className={classes.slot ?? ''}
            aria-label={t('howLabelIsCompared', { label })}
            data={offered.map(({ id, words, after }) => ({
              value: id,
              // What comes after the value stands behind it once it is chosen.
              label: after && id !== comparison ? `${words} … ${after}` : words,
            }))}
            value={comparison}
            onChange={({ currentTarget }) => {
              const next = comparisonNamed(currentTarget.value);
              const keeps = next?.wants === known?.wants;
              onChange({ field, comparison: currentTarget.value, values: keeps ? values : [] });
            }}
          />
        )}
        {field !== '' && known && (
          <Value
            comparison={known}
            label={label}
            values={values}
            suggestions={found?.field.values ?? found?.field.samples ?? []}
            onChange={(next) => onChange({ ...clause, values: next })}
          />
        )}
        {known?.after && <span>{known.after}</span>}
        <ActionIcon
          variant="subtle"
          size="xs"
          aria-label={
            field === '' ? t('removeTheCondition') : t('removeTheConditionOnLabel', { label })
          }
          onClick={onRemove}
        >
          <IconX size={13} />
        </ActionIcon>
      </div>
    </div>
  );
}

function Value({
  comparison: { wants },
  label,
  values,
  suggestions,
  onChange,
}: {
  comparison: Comparison;
  label: string;
  values: readonly string[];
  suggestions: readonly string[];
  onChange: (values: string[]) => void;
}) {
  const [value = ''] = values;
  const name = t('valueForLabel', { label });
  const slot = { size: 'xs', 'aria-label': name, className: classes.value ?? '' } as const;
  switch (wants) {
    case 'nothing':
      return null;
    case 'text':
      return (
        <Autocomplete
          {...slot}
          data={[...suggestions]}
          comboboxProps={AS_WIDE_AS_ITS_WORDS}
          limit={MOST_SUGGESTED}
          value={value}
          onChange={(text) => onChange(text === '' ? [] : [text])}
        />
      );
    case 'texts':
      return (
        <TagsInput
          {...slot}
          placeholder={values.length === 0 ? t('oneOrMore') : ''}
          data={[...suggestions]}
          comboboxProps={AS_WIDE_AS_ITS_WORDS}
          limit={MOST_SUGGESTED}
          value={[...values]}
          onChange={onChange}
        />
      );
    case 'number':
    case 'days':
      return (
        <NumberInput
          {...slot}
          hideControls
          allowDecimal={wants === 'number'}
          allowNegative={wants === 'number'}
          value={value === '' ? '' : Number(value)}
          onChange={(number) => onChange(number === '' ? [] : [String(number)])}
        />
      );
    case 'date':
      return (
        <DateInput
          {...slot}
          valueFormat="D MMM YYYY"
          value={value === '' ? null : value}
          onChange={(day) => onChange(day ? [day] : [])}
        />
      );
  }
}
