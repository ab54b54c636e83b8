import { ActionIcon, Button, Group, Select, Stack, TextInput } from '@mantine/core';
import { IconListSearch } from '@tabler/icons-react';
import { check, parsedFormula, readTag, writeTag, type TagFormat } from '@carafe/core/formula';
import { singleValues } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { SamplesList } from '../SamplesList';
import { Findings } from '../Findings';
import { FormulaField } from '../formula/FormulaField';
import { printIn, useScope } from './scope';

const FORMATS: { value: TagFormat; label: string }[] = [
  { value: 'plain', label: 'As it is' },
  { value: 'title', label: 'Title Case' },
  { value: 'sentence', label: 'Sentence case' },
  { value: 'upper', label: 'UPPER CASE' },
  { value: 'lower', label: 'lower case' },
  { value: 'money', label: 'Money' },
  { value: 'number', label: 'Number' },
  { value: 'percent', label: 'Percent' },
  { value: 'date short', label: 'Date, short' },
  { value: 'date medium', label: 'Date, medium' },
  { value: 'date long', label: 'Date, long' },
  { value: 'date weekday', label: 'Weekday' },
  { value: 'date time', label: 'Time of day' },
];

interface Props {
  formula: string;
  onChange: (formula: string) => void;
  onRemove: () => void;
}

/** What a merge tag prints, how, and what stands there when it is blank. */
export function TagForm({ formula, onChange, onRemove }: Props) {
  const scope = useScope();
  const parts = readTag(formula);
  const put = (change: Partial<NonNullable<typeof parts>>) => {
    const next = parts && writeTag({ ...parts, ...change });
    if (next) onChange(next);
  };
  const parsed = parsedFormula(formula);
  const findings = parsed.ok
    ? check(parsed.value, scope.shape, { use: 'tag', frames: scope.frames }).findings
    : [];
  const now = printIn(scope, formula);
  return (
    <Stack gap={8} data-keep-open>
      {parts ? (
        <>
          <TextInput
            label="Field"
            value={parts.what}
            readOnly
            styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
            rightSection={
              <FieldPicker
                expand={singleValues}
                shape={scope.shape}
                frames={scope.frames}
                onPick={({ path }) => put({ what: path })}
              >
                <ActionIcon variant="subtle" size="sm" aria-label="Choose another field">
                  <IconListSearch size={15} />
                </ActionIcon>
              </FieldPicker>
            }
          />
          <Select
            label="Format"
            data={FORMATS}
            value={parts.format}
            allowDeselect={false}
            comboboxProps={{ withinPortal: false }}
            onChange={(format) => format && put({ format: format as TagFormat })}
          />
          <TextInput
            label="Fallback"
            description="Shown when the field is blank"
            placeholder="Nothing"
            value={parts.fallback ?? ''}
            onChange={({ currentTarget: { value } }) =>
              put({ fallback: value === '' ? null : value })
            }
          />
        </>
      ) : (
        <FormulaField
          label="Formula"
          value={formula}
          onChange={onChange}
          shape={scope.shape}
          frames={scope.frames}
          use="tag"
        />
      )}
      {now !== null && (
        <div className="now" data-testid="tag-value">
          Here: {now.trim() === '' ? 'blank' : now}
        </div>
      )}
      {parts && <Findings findings={findings} />}
      {scope.shop !== undefined && <SamplesList shop={scope.shop} formula={formula} />}
      <Group justify="flex-end">
        <Button variant="subtle" color="clay" onClick={onRemove}>
          Remove the tag
        </Button>
      </Group>
    </Stack>
  );
}
