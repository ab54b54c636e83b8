import { useEffect, useRef, useState, type ReactNode } from 'react';
import { ActionIcon, Button, Group, NativeSelect } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import type { ScopeFrame } from '@carafe/core/formula';
import {
  comparisonNamed,
  comparisonsFor,
  formulaSentence,
  isSentence,
  sentenceFormula,
  isMembers,
  type Clause,
  type Members,
  type Part,
  type Sentence,
} from '@carafe/core/sentence';
import { ANY, fieldLabel, memberShape, type FieldPath, type Shape } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { ClauseLine } from './ClauseLine';
import { fieldChoices, kindOf } from './fields';
import classes from './sentence.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

const OF = [
  { value: 'all', label: t('allOfTheseAreTrue') },
  { value: 'any', label: t('anyOfTheseIsTrue') },
  { value: 'none', label: t('noneOfTheseIsTrue') },
];
const NEW_CLAUSE: Clause = { field: '', comparison: '', values: [] };

interface Props {
  label: string;
  /** The formula; one that no sentence can say is not for this editor. */
  value: string;
  onChange: (formula: string) => void;
  shape: Shape;
  frames: readonly ScopeFrame[];
  /** What else can be done with the condition: buttons that stand in one row with its own. */
  more?: ReactNode;
}

/** A condition as running text whose slots are edited in place. What is unfinished asks nothing yet. */
export function SentenceEditor({ label, value, onChange, shape, frames, more }: Props) {
  const [draft, setDraft] = useState<Sentence>(
    () => formulaSentence(value) ?? { of: 'all', parts: [] },
  );
  // A change made elsewhere (undo, a repair) is shown. A formula sent from here comes back later,
  // perhaps after the next one was sent: it must not put the draft back.
  const sent = useRef([value]);
  useEffect(() => {
    const returned = sent.current.indexOf(value);
    sent.current = returned === -1 ? [value] : sent.current.slice(returned);
    if (returned === -1) setDraft(formulaSentence(value) ?? { of: 'all', parts: [] });
  }, [value]);
  const put = (next: Sentence) => {
    setDraft(next);
    const formula = sentenceFormula(next);
    if (formula === sent.current.at(-1)) return;
    sent.current.push(formula);
    onChange(formula);
  };
  const choices = fieldChoices(shape, frames);
  return (
    <div role="group" aria-label={label}>
      <GroupLines
        sentence={draft}
        depth={0}
        onChange={put}
        given={{ shape, frames, choices, member: null }}
        more={more}
      />
    </div>
  );
}

interface Given {
  shape: Shape;
  frames: readonly ScopeFrame[];
  choices: ReturnType<typeof fieldChoices>;
  /** What the members are called whose fields are asked; null for the record's own. */
  member: string | null;
}

function GroupLines({
  sentence,
  depth,
  onChange,
  onRemove,
  given,
  more,
}: {
  sentence: Sentence;
  depth: number;
  onChange: (sentence: Sentence) => void;
  onRemove?: () => void;
  given: Given;
  more?: ReactNode;
}) {
  const { of, parts } = sentence;
  const put = (i: number, part: Part | null) =>
    onChange({
      of,
      parts: part === null ? parts.filter((_, at) => at !== i) : parts.with(i, part),
    });
  const add = (part: Part) => onChange({ of, parts: [...parts, part] });
  // What is asked of members stands within theirs: it is removed with them.
  const isGroup = onRemove !== undefined;
  const hasLists = given.choices.some(isListOfRecords);
  return (
    <div className={classes.group} data-inside={isGroup || undefined}>
      {(parts.length > 1 || isGroup || of === 'none') && (
        <div className={classes.of}>
          <NativeSelect
            size="xs"
            variant="unstyled"
            className={classes.slot ?? ''}
            aria-label={t('howTheConditionsAreCombined')}
            data={OF}
            value={of}
            onChange={({ currentTarget }) =>
              onChange({ of: currentTarget.value as Sentence['of'], parts })
            }
          />
          {onRemove && (
            <ActionIcon
              variant="subtle"
              size="xs"
              aria-label={t('removeTheGroup')}
              onClick={onRemove}
            >
              <IconX size={13} />
            </ActionIcon>
          )}
        </div>
      )}
      {parts.map((part, i) =>
        isSentence(part) ? (
          <GroupLines
            key={i}
            sentence={part}
            depth={depth + 1}
            onChange={(next) => put(i, next)}
            onRemove={() => put(i, null)}
            given={given}
          />
        ) : isMembers(part) ? (
          <MembersLines
            key={i}
            members={part}
            depth={depth + 1}
            onChange={(next) => put(i, next)}
            onRemove={() => put(i, null)}
            given={given}
          />
        ) : (
          <ClauseLine
            key={i}
            clause={part}
            {...given}
            onField={(field) => {
              const kind = kindOf(given.choices, field);
              const fits = comparisonsFor(kind);
              const known = fits.find(({ id }) => id === part.comparison);
              const keeps = known?.wants === comparisonNamed(part.comparison)?.wants;
              put(i, {
                field,
                comparison: (known ?? fits[0])?.id ?? 'filled',
                values: known && keeps ? part.values : [],
              });
            }}
            onChange={(next) => put(i, next)}
            onRemove={() => put(i, null)}
          />
        ),
      )}
      <Group gap={4}>
        <Button
          size="compact-xs"
          variant="subtle"
          {...(parts.length === 0 && { 'data-add': true })}
          onClick={() => add(NEW_CLAUSE)}
        >
          {parts.length === 0 && !isGroup ? t('addACondition') : t('addAnother')}
        </Button>
        {parts.length > 0 && depth < 4 && (
          <Button
            size="compact-xs"
            variant="subtle"
            onClick={() => add({ of: of === 'any' ? 'all' : 'any', parts: [NEW_CLAUSE] })}
          >
            {t('addAGroup')}
          </Button>
        )}
        {hasLists && depth < 4 && (
          <FieldPicker
            shape={given.shape}
            frames={given.frames}
            only={isListOfRecords}
            onPick={({ path }) =>
              add({ list: path, how: 'any', where: { of: 'all', parts: [NEW_CLAUSE] } })
            }
          >
            <Button size="compact-xs" variant="subtle">
              {t('addAListCondition')}
            </Button>
          </FieldPicker>
        )}
        {more}
      </Group>
    </div>
  );
}

const HOW: { value: Members['how']; label: string }[] = [
  { value: 'any', label: t('forAtLeastOneOf') },
  { value: 'every', label: t('forEveryOneOf') },
  { value: 'none', label: t('forNoneOf') },
];

const isListOfRecords = ({ field: { shape } }: FieldPath) =>
  shape.kind === 'list' && shape.of.kind === 'record';

/** What is asked of the members of a list. */
function MembersLines({
  members: { list, how, where },
  depth,
  onChange,
  onRemove,
  given,
}: {
  members: Members;
  depth: number;
  onChange: (members: Members) => void;
  onRemove: () => void;
  given: Given;
}) {
  const found = given.choices.find(({ path }) => path === list);
  const label = found?.label ?? fieldLabel(list);
  const shape = found ? memberShape(found.field.shape) : ANY;
  return (
    <div role="group" aria-label={t('ofLabel', { label: label.toLowerCase() })}>
      <div className={classes.of}>
        <NativeSelect
          size="xs"
          variant="unstyled"
          className={classes.slot ?? ''}
          aria-label={t('forHowManyOfLabel', { label: label.toLowerCase() })}
          data={HOW}
          value={how}
          onChange={({ currentTarget }) =>
            onChange({ list, how: currentTarget.value as Members['how'], where })
          }
        />
        <span title={list}>{label.toLowerCase()}</span>
        <ActionIcon
          variant="subtle"
          size="xs"
          aria-label={t('removeTheConditionOnLabel', { label: label.toLowerCase() })}
          onClick={onRemove}
        >
          <IconX size={13} />
        </ActionIcon>
      </div>
      <div className={classes.members}>
        <GroupLines
          sentence={where}
          depth={depth}
          onChange={(next) => onChange({ list, how, where: next })}
          given={{
            ...{ shape, frames: NO_FRAMES, choices: fieldChoices(shape, NO_FRAMES) },
            member: label,
          }}
        />
      </div>
    </div>
  );
}

const NO_FRAMES: readonly ScopeFrame[] = [];
