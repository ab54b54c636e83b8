import { Button, NumberInput, SegmentedControl, Select, TextInput } from '@mantine/core';
import { UNITS, type Branch, type Duration, type Step } from '@carafe/core/occasion';
import type { Shape } from '@carafe/core/shape';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { Weekdays } from './StartForm';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

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
        aria-label={t('labelIn', { label })}
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
        aria-label={t('howItWaits')}
        value={until ? 'until' : 'for'}
        data={[
          { value: 'for', label: t('waitFor') },
          { value: 'until', label: t('waitUntil') },
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
            aria-label={t('timeOfDay')}
            size="xs"
            type="time"
            value={until.time}
            onChange={({ currentTarget: { value } }) =>
              value && onChange({ ...step, until: { ...until, time: value } })
            }
          />
          <span>{t('on')}</span>
          <Weekdays
            value={until.days ?? []}
            onChange={(days) => onChange({ ...step, until: { ...until, days } })}
          />
        </>
      ) : (
        <DurationInput
          label={t('waitFor')}
          value={step.for ?? { n: 1, unit: 'days' }}
          onChange={(to) => onChange({ id, kind, for: to })}
        />
      )}
    </div>
  );
}

const OTHERWISE = [
  { value: 'stop', label: t('theOccasionEnds') },
  { value: 'skip', label: t('theNextEmailIsSkipped') },
  { value: 'ask_again', label: t('itIsCheckedAgain') },
];

function GuardForm({ step, shape, onChange }: Of<'guard'>) {
  const { id, kind, when } = step;
  return (
    <>
      <ConditionField
        label={t('continueOnlyIf')}
        placeholder={t('notOccasionOrderedSince')}
        value={when}
        shape={shape}
        frames={[]}
        now={null}
        onChange={(to) => onChange({ ...step, when: to })}
      />
      <div className={classes.line}>
        <span>{t('ifNot')}</span>
        <Select
          aria-label={t('ifNot2')}
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
            <span>{t('every')}</span>
            <DurationInput
              label={t('every2')}
              value={step.every ?? { n: 1, unit: 'days' }}
              onChange={(every) => onChange({ ...step, every })}
            />
            <span>{t('forAtMost')}</span>
            <DurationInput
              label={t('forAtMost2')}
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
          aria-label={t('template')}
          size="xs"
          w={220}
          searchable
          placeholder={t('chooseATemplate')}
          data={templates.map(({ id, name }) => ({ value: id, label: name }))}
          value={step.template === '' ? null : step.template}
          onChange={(template) => onChange({ ...step, template: template ?? '' })}
        />
        <span>{t('to')}</span>
        <Select
          aria-label={t('toWhom')}
          size="xs"
          w={120}
          allowDeselect={false}
          data={[
            { value: 'person', label: t('thePerson') },
            { value: 'owner', label: t('theOwner') },
          ]}
          value={step.to}
          onChange={(to) => to && onChange({ ...step, to: to as 'person' | 'owner' })}
        />
        <span>{t('as')}</span>
        <Select
          aria-label={t('whatKindOfMail')}
          size="xs"
          w={190}
          allowDeselect={false}
          data={[
            { value: 'marketing', label: t('marketingWithConsent') },
            { value: 'service', label: t('serviceToEverybody') },
          ]}
          value={step.mail}
          onChange={(mail) => mail && onChange({ ...step, mail: mail as 'marketing' | 'service' })}
        />
      </div>
      <SegmentedControl
        size="xs"
        w="fit-content"
        aria-label={t('whetherItIsSent')}
        value={step.mode}
        data={[
          { value: 'off', label: t('off') },
          { value: 'held', label: t('heldForApproval') },
          { value: 'on', label: t('on2') },
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
            label={i === 0 ? t('if') : t('orIf')}
            placeholder={t('cartTotal50')}
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
          {t('addABranch')}
        </Button>
        {step.ways.length > 1 && (
          <Button
            size="compact-xs"
            variant="subtle"
            color="clay"
            onClick={() => put(step.ways.slice(0, -1))}
          >
            {t('removeTheLastBranch')}
          </Button>
        )}
      </div>
    </>
  );
}
