import { Button, NumberInput, SegmentedControl, Select, TextInput } from '@mantine/core';
import { UNITS, type Branch, type Duration, type Step } from '@carafe/core/occasion';
import type { Shape } from '@carafe/core/shape';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { Weekdays } from './StartForm';
import classes from './Occasions.module.css';

export interface TemplateChoice {
  id: string;
  name: string;
  version: number;
}
interface Props {
  step: Step;
  shape: Shape;
  templates: readonly TemplateChoice[];
  onChange: (step: Step) => void;
}

/** What a step asks, as parts of a sentence. */
export function StepForm({ step, ...more }: Props) {
  switch (step.kind) {
    case 'wait':
      return <WaitForm step={step} {...more} />;
    case 'guard':
      return <GuardForm step={step} {...more} />;
    case 'send':
      return <SendForm step={step} {...more} />;
    case 'branch':
      return <BranchForm step={step} {...more} />;
  }
}

type Of<K extends Step['kind']> = Omit<Props, 'step'> & { step: Extract<Step, { kind: K }> };

function DurationInput({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Duration;
  onChange: (to: Duration) => void;
}) {
  return (
    <>
      <NumberInput
        aria-label={label}
        size="xs"
        w={64}
        min={0}
        max={1000}
        value={value.n}
        onChange={(n) => typeof n === 'number' && onChange({ ...value, n })}
      />
      <Select
        aria-label={`${label}, in`}
        size="xs"
        w={96}
        allowDeselect={false}
        data={[...UNITS]}
        value={value.unit}
        onChange={(unit) => unit && onChange({ ...value, unit: unit as Duration['unit'] })}
      />
    </>
  );
}

function WaitForm({ step, onChange }: Of<'wait'>) {
  const { id, kind, until } = step;
  return (
    <div className={classes.line}>
      <SegmentedControl
        size="xs"
        aria-label="How it waits"
        value={until ? 'until' : 'for'}
        data={[
          { value: 'for', label: 'Wait for' },
          { value: 'until', label: 'Wait until' },
        ]}
        onChange={(to) =>
          onChange(
            to === 'until'
              ? { id, kind, until: { time: '09:00' } }
              : { id, kind, for: { n: 1, unit: 'days' } },
          )
        }
      />
      {until ? (
        <>
          <TextInput
            aria-label="Time of day"
            size="xs"
            type="time"
            value={until.time}
            onChange={({ currentTarget: { value } }) =>
              value && onChange({ ...step, until: { ...until, time: value } })
            }
          />
          <span>on</span>
          <Weekdays
            value={until.days ?? []}
            onChange={(days) => onChange({ ...step, until: { ...until, days } })}
          />
        </>
      ) : (
        <DurationInput
          label="Wait for"
          value={step.for ?? { n: 1, unit: 'days' }}
          onChange={(to) => onChange({ id, kind, for: to })}
        />
      )}
    </div>
  );
}

const OTHERWISE = [
  { value: 'stop', label: 'the occasion ends' },
  { value: 'skip', label: 'the next email is skipped' },
  { value: 'ask_again', label: 'it is checked again' },
];

function GuardForm({ step, shape, onChange }: Of<'guard'>) {
  const { id, kind, when } = step;
  return (
    <>
      <ConditionField
        label="Continue only if"
        placeholder="not occasion.ordered_since"
        value={when}
        shape={shape}
        frames={[]}
        now={null}
        onChange={(to) => onChange({ ...step, when: to })}
      />
      <div className={classes.line}>
        <span>If not,</span>
        <Select
          aria-label="If not"
          size="xs"
          w={210}
          allowDeselect={false}
          data={OTHERWISE}
          value={step.otherwise}
          onChange={(to) => {
            if (to === 'ask_again')
              onChange({
                ...{ id, kind, when, otherwise: to },
                ...{ every: { n: 6, unit: 'hours' }, up_to: { n: 3, unit: 'days' } },
              });
            else if (to) onChange({ id, kind, when, otherwise: to as 'stop' | 'skip' });
          }}
        />
        {step.otherwise === 'ask_again' && (
          <>
            <span>every</span>
            <DurationInput
              label="Every"
              value={step.every ?? { n: 1, unit: 'days' }}
              onChange={(every) => onChange({ ...step, every })}
            />
            <span>for at most</span>
            <DurationInput
              label="For at most"
              value={step.up_to ?? { n: 7, unit: 'days' }}
              onChange={(up_to) => onChange({ ...step, up_to })}
            />
          </>
        )}
      </div>
    </>
  );
}

function SendForm({ step, templates, onChange }: Of<'send'>) {
  return (
    <>
      <div className={classes.line}>
        <Select
          aria-label="Template"
          size="xs"
          w={220}
          searchable
          placeholder="Choose a template"
          data={templates.map(({ id, name }) => ({ value: id, label: name }))}
          value={step.template === '' ? null : step.template}
          onChange={(template) => onChange({ ...step, template: template ?? '' })}
        />
        <span>to</span>
        <Select
          aria-label="To whom"
          size="xs"
          w={120}
          allowDeselect={false}
          data={[
            { value: 'person', label: 'the person' },
            { value: 'owner', label: 'the owner' },
          ]}
          value={step.to}
          onChange={(to) => to && onChange({ ...step, to: to as 'person' | 'owner' })}
        />
        <span>as</span>
        <Select
          aria-label="What kind of mail"
          size="xs"
          w={190}
          allowDeselect={false}
          data={[
            { value: 'marketing', label: 'marketing, with consent' },
            { value: 'service', label: 'service, to everybody' },
          ]}
          value={step.mail}
          onChange={(mail) => mail && onChange({ ...step, mail: mail as 'marketing' | 'service' })}
        />
      </div>
      <SegmentedControl
        size="xs"
        w="fit-content"
        aria-label="Whether it is sent"
        value={step.mode}
        data={[
          { value: 'off', label: 'Off' },
          { value: 'held', label: 'Held for approval' },
          { value: 'on', label: 'On' },
        ]}
        onChange={(mode) => onChange({ ...step, mode: mode as 'off' | 'held' | 'on' })}
      />
    </>
  );
}

function BranchForm({ step, shape, onChange }: Of<'branch'>) {
  const put = (ways: Branch['ways']) => onChange({ ...step, ways });
  return (
    <>
      {step.ways.map((way, i) => (
        <div key={i}>
          <ConditionField
            label={i === 0 ? 'If' : 'Or if'}
            placeholder="cart.total >= 50"
            value={way.when}
            shape={shape}
            frames={[]}
            now={null}
            onChange={(when) =>
              put(step.ways.map((one, at) => (at === i ? { ...one, when } : one)))
            }
          />
        </div>
      ))}
      <div className={classes.line}>
        <Button
          size="compact-xs"
          variant="default"
          disabled={step.ways.length >= 5}
          onClick={() => put([...step.ways, { when: '', steps: [] }])}
        >
          Add a branch
        </Button>
        {step.ways.length > 1 && (
          <Button
            size="compact-xs"
            variant="subtle"
            color="clay"
            onClick={() => put(step.ways.slice(0, -1))}
          >
            Remove the last branch
          </Button>
        )}
      </div>
    </>
  );
}
