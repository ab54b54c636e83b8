import { ActionIcon, Menu, Button } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconPlus, IconX } from '@tabler/icons-react';
import {
  sayDuration,
  durationOf,
  sayFormula,
  sayStep,
  timelineOf,
  type Occasion,
  type Problem,
  type ShopRules,
  type Step,
} from '@carafe/core/occasion';
import type { Shape } from '@carafe/core/shape';
import type { StoredOccasion } from '@carafe/contract';
import { nanoid } from 'nanoid';
import { Link } from 'react-router';
import { counted } from '@carafe/core/words';
import { Thumbnail } from '../templates/Thumbnail';
import { moved, newStep, withRow, type RowPath } from './rows';
import { StepForm, type TemplateChoice } from './StepForm';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

const HOUR = 3_600_000;
/** A stretch longer than this is drawn with a break, in hours. */
const BREAK = 24 * 7;

interface Props {
  occasion: Occasion;
  rules: ShopRules;
  zone: string;
  /** The instant from which times of day are reckoned. */
  begin: number;
  shape: Shape;
  templates: readonly TemplateChoice[];
  problems: readonly Problem[];
  counts: StoredOccasion['steps'];
  /** Where the mails of this occasion are. */
  outbox: string;
  /** For whom the mails are shown; the first who fits each, where it is left out. */
  person?: number | undefined;
  opened: string | null;
  onOpen: (id: string | null) => void;
  onChange: (occasion: Occasion) => void;
}

/** How far below the step before a step hangs: hours lie close, days wide. */
const gapOf = (ms: number): number =>
  ms <= 0 ? 6 : Math.min(88, 12 + 11 * Math.log2(1 + ms / HOUR));

/** “+4 h”, “+1 d 4 h”, “+2 w”. */
function since(ms: number): string {
  if (ms === 0) return t('atOnce');
  const minutes = Math.round(ms / 60_000);
  const [days, hours, rest] = [
    Math.floor(minutes / 1440),
    Math.floor((minutes % 1440) / 60),
    minutes % 60,
  ];
  const parts = [
    days > 0 && `${days} d`,
    hours > 0 && `${hours} h`,
    rest > 0 && days === 0 && t('restMin', { rest }),
  ];
  return `+${parts.filter(Boolean).join(' ')}`;
}

/** An occasion as a column of sentences that hang on a line of true time. */
export function TimeLine(props: Props) {
  const { occasion, rules, begin, zone } = props;
  const { quiet, hung } = timelineOf(occasion, rules, { begin, zone });
  const at = new Map(hung.map(({ step, from }) => [step.id, from]));
  return (
    <div className={classes.timeline} data-time-line>
      {quiet > 0 && (
        <div className={classes.hung}>
          <span className={classes.when}>0</span>
          <p className={classes.origin}>
            {t('lastActivityThenNoActivityFor', { sayDuration: sayDuration(durationOf(quiet)) })}
          </p>
        </div>
      )}
      <Row {...props} steps={occasion.steps} path={[]} at={at} before={0} first={quiet} />
    </div>
  );
}

interface RowProps extends Props {
  steps: readonly Step[];
  path: RowPath;
  at: ReadonlyMap<string, number>;
  before: number;
  first: number;
}

function Row({ steps, path, at, before, first, ...props }: RowProps) {
  const { occasion, onChange, onOpen } = props;
  const change = (make: (row: Step[]) => Step[]) =>
    onChange({ ...occasion, steps: withRow(occasion.steps, path, make) });
  const add = (kind: Step['kind'], place: number) => {
    const step = newStep(kind, nanoid(8));
    change((row) => [...row.slice(0, place), step, ...row.slice(place)]);
    onOpen(step.id);
  };
  let last = before;
  return (
    <ol className={classes.row}>
      {steps.map((step, i) => {
        const from = at.get(step.id) ?? first;
        const gap = from - last;
        last = from;
        return (
          <li key={step.id}>
            <AddStep onAdd={(kind) => add(kind, i)} />
            <OneStep
              {...{ ...props, step, path, at, gap, from }}
              isFirst={i === 0}
              isLast={i === steps.length - 1}
              onPut={(to) => change((row) => row.map((one) => (one.id === step.id ? to : one)))}
              onMove={(by) => change((row) => moved(row, i, i + by))}
              onDrop={() => change((row) => row.filter(({ id }) => id !== step.id))}
            />
          </li>
        );
      })}
      <li>
        <AddStep
          isLast
          words={steps.length === 0 ? t('addAStep') : undefined}
          onAdd={(kind) => add(kind, steps.length)}
        />
      </li>
    </ol>
  );
}

const KINDS: readonly { kind: Step['kind']; label: string }[] = [
  { kind: 'wait', label: t('wait') },
  { kind: 'guard', label: t('continueOnlyIf') },
  { kind: 'send', label: t('sendAnEmail') },
  { kind: 'branch', label: t('branch') },
];

function AddStep({
  isLast = false,
  words,
  onAdd,
}: {
  isLast?: boolean;
  words?: string | undefined;
  onAdd: (kind: Step['kind']) => void;
}) {
  return (
    <div className={classes.add} data-last={isLast || undefined}>
      <Menu position="bottom-start" withinPortal={false}>
        <Menu.Target>
          {words || isLast ? (
            <Button size="compact-xs" variant="default" leftSection={<IconPlus size={13} />}>
              {words ?? t('addAStep')}
            </Button>
          ) : (
            <ActionIcon size={18} variant="default" aria-label={t('addAStepHere')}>
              <IconPlus size={12} />
            </ActionIcon>
          )}
        </Menu.Target>
        <Menu.Dropdown>
          {KINDS.map(({ kind, label }) => (
            <Menu.Item key={kind} onClick={() => onAdd(kind)}>
              {label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}

interface StepProps extends Omit<RowProps, 'steps' | 'before' | 'first'> {
  step: Step;
  gap: number;
  from: number;
  isFirst: boolean;
  isLast: boolean;
  onPut: (step: Step) => void;
  onMove: (by: 1 | -1) => void;
  onDrop: () => void;
}

function OneStep({ step, gap, from, isFirst, isLast, onPut, onMove, onDrop, ...props }: StepProps) {
  const { shape, templates, problems, counts, opened, onOpen } = props;
  const isOpen = opened === step.id;
  const names = {
    template: (id: string) => templates.find((one) => one.id === id)?.name ?? t('aDeletedTemplate'),
  };
  const wrong = problems.filter((problem) => problem.step === step.id);
  const count = counts.find((one) => one.step === step.id);
  const template = step.kind === 'send' ? templates.find(({ id }) => id === step.template) : null;
  return (
    <div
      className={classes.hung}
      data-kind={step.kind}
      data-step={step.id}
      data-off={(step.kind === 'send' && step.mode === 'off') || undefined}
      style={{ marginTop: gapOf(gap) }}
    >
      <span className={classes.when}>
        {gap / HOUR > BREAK && <span className={classes.break} aria-hidden />}
        {since(from)}
      </span>
      <div className={classes.stepBox}>
        <div className={classes.stepHead}>
          <button
            type="button"
            className={classes.said}
            aria-expanded={isOpen}
            onClick={() => onOpen(isOpen ? null : step.id)}
          >
            {sayStep(step, names)}
          </button>
          <StepCounts count={count} outbox={props.outbox} />
          <ActionIcon
            size="sm"
            variant="subtle"
            aria-label={t('earlier')}
            disabled={isFirst}
            onClick={() => onMove(-1)}
          >
            <IconArrowUp size={13} />
          </ActionIcon>
          <ActionIcon
            size="sm"
            variant="subtle"
            aria-label={t('later')}
            disabled={isLast}
            onClick={() => onMove(1)}
          >
            <IconArrowDown size={13} />
          </ActionIcon>
          <ActionIcon size="sm" variant="subtle" aria-label={t('deleteTheStep')} onClick={onDrop}>
            <IconX size={13} />
          </ActionIcon>
        </div>
        {wrong.map(({ message, severity, template: about }) => (
          <p key={message} className={severity === 'error' ? classes.problem : classes.warning}>
            {message} {about && <Link to={`/templates/${about}`}>{t('openTheTemplate')}</Link>}
          </p>
        ))}
        {isOpen && (
          <div className={classes.stepForm}>
            <StepForm step={step} shape={shape} templates={templates} onChange={onPut} />
          </div>
        )}
        {template && (
          <Link
            className={isOpen ? classes.small : classes.smaller}
            to={`/templates/${template.id}`}
            aria-label={t('openName', { name: template.name })}
          >
            <Thumbnail id={template.id} version={template.version} person={props.person} />
          </Link>
        )}
        {step.kind === 'branch' && (
          <div className={classes.ways}>
            {[
              ...step.ways.map(({ when, steps }) => ({
                title: t('ifWhich', { which: when ? sayFormula(when) : '…' }),
                steps,
              })),
              { title: t('else'), steps: step.otherwise },
            ].map(({ title, steps }, way) => (
              <div key={way} className={classes.way}>
                <div className="label">{title}</div>
                <Row
                  {...props}
                  steps={steps}
                  path={[...props.path, { branch: step.id, way }]}
                  before={from}
                  first={from}
                />
              </div>
            ))}
          </div>
        )}
      </div>
    </div>
  );
}

/** How many people are at a step, and its mails, each a link to them. */
function StepCounts({
  count,
  outbox,
}: {
  count: StoredOccasion['steps'][number] | undefined;
  outbox: string;
}) {
  if (!count) return null;
  const { step, waiting, mails } = count;
  const states = (['held', 'sent'] as const).filter((state) => (mails[state] ?? 0) > 0);
  if (waiting === 0 && states.length === 0) return null;
  return (
    <span className={classes.counts}>
      {waiting > 0 && t('peopleHere', { people: counted(waiting, 'person', 'people') })}
      {states.map((state, i) => (
        <span key={state}>
          {(waiting > 0 || i > 0) && ', '}
          <Link to={`${outbox}&step=${step}&state=${state}`}>
            {mails[state]} {state}
          </Link>
        </span>
      ))}
    </span>
  );
}
