import { useRef, useState } from 'react';
import { ActionIcon, Button, NumberInput, Select } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconGripVertical, IconX } from '@tabler/icons-react';
import { STEPS, type RuleStep, type Sieve } from '@carafe/core/recommend';
import { figure } from '@carafe/core/words';
import { SieveBar } from './SieveBar';
import { StepDetails } from './StepDetails';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

type Kind = keyof typeof STEPS;
const KINDS = Object.values(STEPS).map(({ kind, name }) => ({ value: kind, label: name }));

interface Props {
  steps: readonly RuleStep[];
  /** Asked together, by weight, but for the last. */
  mixed: boolean;
  /** How much each step can draw from, for the person shown. */
  sieve: Sieve | undefined;
  onChange: (steps: RuleStep[]) => void;
}

/** The steps of a rule in turn, each with its own few questions; moved by dragging or by arrows. */
export function StepsForm({ steps, mixed, sieve, onChange }: Props) {
  // Not in the state: the next event of the drag may come before the page is drawn anew.
  const dragged = useRef<number | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const put = (i: number, change: Partial<RuleStep>) =>
    onChange(steps.map((one, at) => (at === i ? { ...one, ...change } : one)));
  const moveTo = (from: number, to: number) => {
    const next = [...steps];
    const [one] = next.splice(from, 1);
    if (one) next.splice(to, 0, one);
    onChange(next);
  };
  const isMixed = (i: number) => mixed && i < steps.length - 1;
  return (
    <>
      <ol className={classes.steps}>
        {steps.map(({ take, weight, step }, i) => {
          const called = t('stepI', { i: i + 1 });
          return (
            <li
              key={i}
              data-over={over === i || undefined}
              onDragOver={(event) => {
                if (dragged.current === null) return;
                event.preventDefault();
                setOver(i);
              }}
              onDrop={(event) => {
                event.preventDefault();
                if (dragged.current !== null && dragged.current !== i) moveTo(dragged.current, i);
                dragged.current = null;
                setOver(null);
              }}
            >
              <div className={classes.step}>
                <span
                  className={classes.grip}
                  draggable
                  title={t('dragToAnotherPlace')}
                  onDragStart={() => {
                    dragged.current = i;
                  }}
                  onDragEnd={() => {
                    dragged.current = null;
                    setOver(null);
                  }}
                >
                  <IconGripVertical size={14} aria-hidden />
                </span>
                <Select
                  aria-label={called}
                  size="xs"
                  allowDeselect={false}
                  searchable
                  data={KINDS}
                  value={step.kind}
                  onChange={(kind) => kind && put(i, { step: STEPS[kind as Kind].make() })}
                />
                {isMixed(i) ? (
                  <>
                    <span>{t('counts')}</span>
                    <NumberInput
                      aria-label={t('calledCounts', { called })}
                      size="xs"
                      w={60}
                      min={0}
                      max={10}
                      step={0.5}
                      value={weight ?? 1}
                      onChange={(to) => typeof to === 'number' && put(i, { weight: to })}
                    />
                  </>
                ) : (
                  <>
                    <span>{i === steps.length - 1 ? t('theRest') : t('upTo')}</span>
                    {i < steps.length - 1 && (
                      <NumberInput
                        aria-label={t('calledAtMost', { called })}
                        size="xs"
                        w={60}
                        min={1}
                        max={50}
                        value={take}
                        onChange={(most) => typeof most === 'number' && put(i, { take: most })}
                      />
                    )}
                  </>
                )}
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={t('calledUp', { called })}
                  disabled={i === 0}
                  onClick={() => moveTo(i, i - 1)}
                >
                  <IconArrowUp size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={t('calledDown', { called })}
                  disabled={i === steps.length - 1}
                  onClick={() => moveTo(i, i + 1)}
                >
                  <IconArrowDown size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={t('removeCalled', { called: called.toLowerCase() })}
                  disabled={steps.length === 1}
                  onClick={() => onChange(steps.filter((_, at) => at !== i))}
                >
                  <IconX size={14} />
                </ActionIcon>
              </div>
              <StepDetails step={step} called={called} onChange={(to) => put(i, { step: to })} />
              {sieve && <StepSieve sieve={sieve} at={i} />}
              <p className={classes.about}>{STEPS[step.kind].description}</p>
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
        {t('addAStep')}
      </Button>
    </>
  );
}

function StepSieve({ sieve: { pool, steps }, at }: { sieve: Sieve; at: number }) {
  const { offered = 0, through = 0, room = 1 } = steps[at] ?? {};
  const words = t('offeredToChooseFromWhich', {
    offered: figure(offered - through),
    which: through > 0 ? t('throughLeftOut', { through: figure(through) }) : '',
  });
  return (
    <>
      <SieveBar part={offered} through={through} of={pool} words={words} />
      {room === 0 && <p className={classes.starved}>{t('notAskedForThisPersonThe')}</p>}
    </>
  );
}
