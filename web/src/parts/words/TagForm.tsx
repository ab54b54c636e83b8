import { ActionIcon, Button, Group, Select, Stack, TextInput } from '@mantine/core';
import { IconListSearch } from '@tabler/icons-react';
import { check, parsedFormula, readTag, writeTag, type TagFormat } from '@carafe/core/formula';
import { singleValues } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { SamplesList } from '../SamplesList';
import { Findings } from '../Findings';
import { FormulaField } from '../formula/FormulaField';
import { printIn, useScope } from './scope';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

const FORMATS: { value: TagFormat; label: string }[] = [
  { value: 'plain', label: t('asItIs') },
  { value: 'title', label: t('titleCase') },
  { value: 'sentence', label: t('sentenceCase') },
  { value: 'upper', label: t('uPPERCASE') },
  { value: 'lower', label: t('lowerCase') },
  { value: 'money', label: t('money') },
  { value: 'number', label: t('number') },
  { value: 'percent', label: t('percent') },
  { value: 'date short', label: t('dateShort') },
  { value: 'date medium', label: t('dateMedium') },
  { value: 'date long', label: t('dateLong') },
  { value: 'date weekday', label: t('weekday') },
  { value: 'date time', label: t('timeOfDay') },
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
            label={t('field')}
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
                <ActionIcon variant="subtle" size="sm" aria-label={t('chooseAnotherField')}>
                  <IconListSearch size={15} />
                </ActionIcon>
              </FieldPicker>
            }
          />
          <Select
            label={t('format')}
            data={FORMATS}
            value={parts.format}
            allowDeselect={false}
            comboboxProps={{ withinPortal: false }}
            onChange={(format) => format && put({ format: format as TagFormat })}
          />
          <TextInput
            label={t('fallback')}
            description={t('shownWhenTheFieldIsBlank')}
            placeholder={t('nothing')}
            value={parts.fallback ?? ''}
            onChange={({ currentTarget: { value } }) =>
              put({ fallback: value === '' ? null : value })
            }
          />
        </>
      ) : (
        <FormulaField
          label={t('formula')}
          value={formula}
          onChange={onChange}
          shape={scope.shape}
          frames={scope.frames}
          use="tag"
        />
      )}
      {now !== null && (
        <div className="now" data-testid="tag-value">
          {t('here')} {now.trim() === '' ? t('blank') : now}
        </div>
      )}
      {parts && <Findings findings={findings} />}
      {scope.shop !== undefined && <SamplesList shop={scope.shop} formula={formula} />}
      <Group justify="flex-end">
        <Button variant="subtle" color="clay" onClick={onRemove}>
          {t('removeTheTag')}
        </Button>
      </Group>
    </Stack>
  );
}
