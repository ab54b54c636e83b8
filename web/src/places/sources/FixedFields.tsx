import { ActionIcon, Select, TextInput } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import type { FixedField, Mapping, Target, TargetField } from '@carafe/core/intake';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const TIME = t('theTimeOfTheImport');
const ONE_VALUE = t('oneValueForEveryRow');

/** What no column fills can be given to every row: a value, the time of the import, the shop’s currency. */
export function FixedFields({
  target,
  mapping,
  currency,
  onChange,
}: {
  target: Target;
  mapping: Mapping;
  /** The shop’s, where the source is of one. */
  currency: string | null;
  onChange: (mapping: Mapping) => void;
}) {
  const { fixed = [] } = mapping;
  const filled = new Set(mapping.columns.flatMap(({ to, list }) => (list ? [list.name] : [to])));
  const open = target.fields.filter(
    ({ name, kind }) => name !== target.key && kind !== 'any' && !filled.has(name),
  );
  const isGiven = (name: string) => fixed.some(({ to }) => to === name);
  const shown = open.filter(({ name, required }) => required || isGiven(name));
  const others = open.filter((field) => !shown.includes(field));
  const set = (next: FixedField[]) => onChange({ ...mapping, fixed: next });
  const without = (name: string) => fixed.filter(({ to }) => to !== name);
  const first = ({ name, kind }: TargetField): FixedField => {
    if (kind === 'date') return { to: name, is: 'import_time' };
    return { to: name, is: 'value', value: name === 'currency' && currency ? currency : '' };
  };
  if (open.length === 0) return null;
  return (
    <section className={classes.fixed} aria-label={t('fieldsWithoutAColumn')}>
      {shown.map((field) => (
        <FixedLine
          key={field.name}
          field={field}
          given={fixed.find(({ to }) => to === field.name)}
          currency={currency}
          onGive={(given) => set([...without(field.name), given])}
          onLeave={() => set(without(field.name))}
        />
      ))}
      {others.length > 0 && (
        <Select
          aria-label={t('giveEveryRow')}
          placeholder={t('giveEveryRowTheSameIn')}
          w={330}
          searchable
          value={null}
          data={others.map(({ name, label }) => ({ value: name, label }))}
          onChange={(name) => {
            const field = others.find((one) => one.name === name);
            if (field) set([...fixed, first(field)]);
          }}
        />
      )}
    </section>
  );
}

function FixedLine({
  field: { name, label, kind, required },
  given,
  currency,
  onGive,
  onLeave,
}: {
  field: TargetField;
  given: FixedField | undefined;
  currency: string | null;
  onGive: (given: FixedField) => void;
  onLeave: () => void;
}) {
  const shopCurrency = name === 'currency' && currency ? t('theShopsCurrency', { currency }) : null;
  const chosen = () => {
    if (!given) return null;
    if (given.is === 'import_time') return TIME;
    return shopCurrency && given.value === currency ? shopCurrency : ONE_VALUE;
  };
  const choose = (choice: string | null) => {
    if (choice === TIME) onGive({ to: name, is: 'import_time' });
    else if (choice === shopCurrency && currency)
      onGive({ to: name, is: 'value', value: currency });
    else if (choice === ONE_VALUE) onGive({ to: name, is: 'value', value: '' });
  };
  return (
    <div className={classes.fixedLine}>
      <span>
        {t('noColumnFills')} <strong>{label}</strong>
        {required ? t('whichIsNeeded') : '.'} {t('everyRowGets')}
      </span>
      <Select
        aria-label={t('whatEveryRowGetsAsLabel', { label })}
        w={220}
        placeholder={t('chooseWhat')}
        allowDeselect={false}
        value={chosen()}
        data={[
          ...(kind === 'date' ? [TIME] : []),
          ...(shopCurrency ? [shopCurrency] : []),
          ONE_VALUE,
        ]}
        onChange={choose}
      />
      {given?.is === 'value' && chosen() === ONE_VALUE && (
        <TextInput
          aria-label={t('theValueOfLabelInEvery', { label })}
          w={160}
          autoFocus
          placeholder={kind === 'date' ? '2026-03-31' : undefined}
          value={given.value}
          onChange={({ currentTarget: { value } }) => onGive({ to: name, is: 'value', value })}
        />
      )}
      {given && (
        <ActionIcon variant="subtle" aria-label={t('leaveLabelOut', { label })} onClick={onLeave}>
          <IconX size={14} />
        </ActionIcon>
      )}
    </div>
  );
}
