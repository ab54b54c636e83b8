import { ActionIcon, Button, NumberInput, Select, TagsInput } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconX } from '@tabler/icons-react';
import { STEPS, type Rule } from '@carafe/core/recommend';
import classes from './Recommendations.module.css';

type StepAt = Rule['steps'][number];
type Kind = keyof typeof STEPS;
const KINDS = Object.values(STEPS).map(({ kind, name }) => ({ value: kind, label: name }));
const SEEDS = [
  { value: 'cart', label: 'the cart' },
  { value: 'latest_order', label: 'the latest order' },
  { value: 'all_orders', label: 'all orders' },
];
const BY = [
  { value: 'units', label: 'pieces sold' },
  { value: 'revenue', label: 'money taken' },
  { value: 'buyers', label: 'people who bought' },
];

/** The steps of a rule in turn, each with its own few questions. */
export function StepsForm({
  steps,
  onChange,
}: {
  steps: Rule['steps'];
  onChange: (steps: Rule['steps']) => void;
}) {
  const put = (i: number, change: Partial<StepAt>) =>
    onChange(steps.map((one, at) => (at === i ? { ...one, ...change } : one)));
  const move = (i: number, by: number) => {
    const next = [...steps];
    const [one] = next.splice(i, 1);
    if (one) next.splice(i + by, 0, one);
    onChange(next);
  };
  return (
    <div className={classes.part}>
      <div className="label">Steps, asked in turn</div>
      <ol className={classes.steps}>
        {steps.map(({ take, step }, i) => {
          const called = `Step ${i + 1}`;
          return (
            <li key={i}>
              <div className={classes.step}>
                <Select
                  aria-label={called}
                  allowDeselect={false}
                  data={KINDS}
                  value={step.kind}
                  onChange={(kind) => kind && put(i, { step: STEPS[kind as Kind].make() })}
                />
                <NumberInput
                  aria-label={`${called}: at most`}
                  w={64}
                  min={1}
                  max={50}
                  value={take}
                  onChange={(most) => typeof most === 'number' && put(i, { take: most })}
                />
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`${called} up`}
                  disabled={i === 0}
                  onClick={() => move(i, -1)}
                >
                  <IconArrowUp size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`${called} down`}
                  disabled={i === steps.length - 1}
                  onClick={() => move(i, 1)}
                >
                  <IconArrowDown size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`Take ${called.toLowerCase()} out`}
                  disabled={steps.length === 1}
                  onClick={() => onChange(steps.filter((_, at) => at !== i))}
                >
                  <IconX size={14} />
                </ActionIcon>
              </div>
              <StepDetails step={step} called={called} onChange={(to) => put(i, { step: to })} />
            </li>
          );
        })}
      </ol>
      <Button
        variant="default"
        size="compact-xs"
        w="fit-content"
        disabled={steps.length >= 12}
        onClick={() => onChange([...steps, { take: 4, step: STEPS.newest.make() }])}
      >
        Add a step
      </Button>
    </div>
  );
}

/** What a kind of step asks beside how many. */
function StepDetails({
  step,
  called,
  onChange,
}: {
  step: StepAt['step'];
  called: string;
  onChange: (step: StepAt['step']) => void;
}) {
  switch (step.kind) {
    case 'best_sellers':
      return (
        <div className={classes.details}>
          by
          <Select
            aria-label={`${called}: counted by`}
            allowDeselect={false}
            data={BY}
            value={step.by}
            onChange={(by) => by && onChange({ ...step, by: by as typeof step.by })}
          />
          of the last
          <NumberInput
            aria-label={`${called}: days`}
            w={90}
            min={1}
            max={3650}
            suffix=" days"
            value={step.days}
            onChange={(days) => typeof days === 'number' && onChange({ ...step, days })}
          />
        </div>
      );
    case 'bought_together':
    case 'same_category':
      return (
        <div className={classes.details}>
          with
          <Select
            aria-label={`${called}: with`}
            allowDeselect={false}
            data={step.kind === 'same_category' ? SEEDS.slice(0, 2) : SEEDS}
            value={step.seed}
            onChange={(seed) => seed && onChange({ ...step, seed } as StepAt['step'])}
          />
        </div>
      );
    case 'by_hand':
      return (
        <TagsInput
          aria-label={`${called}: SKUs`}
          placeholder="SKUs"
          value={step.skus}
          onChange={(skus) => onChange({ ...step, skus })}
        />
      );
    case 'newest':
    case 'price_dropped':
      return null;
  }
}
