import { NumberInput, Select, TagsInput } from '@mantine/core';
import { stepKind, type RuleStep, type StepField } from '@carafe/core/recommend';
import { skipToken } from '@reduxjs/toolkit/query';
import { occasionsApi } from '../../app/occasionsApi';
import { useShop } from '../../parts/useShop';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

type Step = RuleStep['step'];
type Values = Record<string, unknown>;

interface Props {
  step: Step;
  called: string;
  onChange: (step: Step) => void;
}

const WEIGHTS = ['words', 'category', 'brand', 'tags', 'price'];

/** The questions of a kind of step, as its own file tells them, as parts of a sentence. */
export function StepDetails({ step, called, onChange }: Props) {
  const values = step as unknown as Values;
  const { fields } = stepKind(step.kind);
  const shown = fields.filter(
    (field) => !('when' in field) || !field.when || values[field.when.path] === field.when.is,
  );
  if (shown.length === 0) return null;
  const put = (path: string, value: unknown) => {
    const { [path]: _, ...rest } = values;
    onChange({ ...rest, ...(value !== undefined && { [path]: value }) } as unknown as Step);
  };
  return (
    <div className={classes.details}>
      {shown.map((field) => (
        <Question
          key={field.path}
          field={field}
          called={called}
          value={values[field.path]}
          onPut={(value) => put(field.path, value)}
        />
      ))}
    </div>
  );
}

function SegmentChoice({ called, value, onPut }: Omit<QuestionProps, 'field'>) {
  const { shop } = useShop();
  const { data } = occasionsApi.useSegmentsQuery(shop ?? skipToken);
  return (
    <Select
      aria-label={t('calledSegment', { called })}
      size="xs"
      placeholder={t('whichSegment')}
      nothingFoundMessage={t('noSegmentsYetAddOneUnder')}
      data={(data?.segments ?? []).map(({ name }) => name)}
      value={typeof value === 'string' ? value : null}
      onChange={(to) => to && onPut(to)}
    />
  );
}

interface QuestionProps {
  field: StepField;
  called: string;
  value: unknown;
  onPut: (value: unknown) => void;
}

function Question({ field, called, value, onPut }: QuestionProps) {
  switch (field.control) {
    case 'choice': {
      const [first] = field.options;
      return (
        <>
          <span>{field.before}</span>
          <Select
            aria-label={`${called}: ${field.before}`}
            size="xs"
            allowDeselect={false}
            data={[...field.options]}
            value={typeof value === 'string' ? value : (first?.value ?? null)}
            onChange={(to) => to && onPut(to)}
          />
        </>
      );
    }
    case 'number':
      return (
        <>
          <span>{field.before}</span>
          <NumberInput
            aria-label={`${called}: ${field.before}`}
            size="xs"
            w={72}
            min={1}
            max={field.most}
            placeholder={field.optional ? (field.none ?? t('any')) : ''}
            value={typeof value === 'number' ? value : ''}
            onChange={(to) => {
              if (typeof to === 'number') onPut(Math.min(field.most, Math.max(1, Math.round(to))));
              else if (field.optional) onPut(undefined);
            }}
          />
          <span>{field.after}</span>
        </>
      );
    case 'products':
      return (
        <TagsInput
          aria-label={t('calledSKUs', { called })}
          size="xs"
          placeholder={t('sKUs')}
          maxTags={50}
          value={Array.isArray(value) ? (value as string[]) : []}
          onChange={onPut}
        />
      );
    case 'segment':
      return <SegmentChoice called={called} value={value} onPut={onPut} />;
    case 'weights': {
      const weights = (value ?? {}) as Record<string, number>;
      return (
        <>
          {WEIGHTS.map((name) => (
            <span key={name} className={classes.weight}>
              {name}
              <NumberInput
                aria-label={t('calledNameCount', { called, name })}
                size="xs"
                w={56}
                min={0}
                max={10}
                value={weights[name] ?? 0}
                onChange={(to) => typeof to === 'number' && onPut({ ...weights, [name]: to })}
              />
            </span>
          ))}
        </>
      );
    }
  }
}
