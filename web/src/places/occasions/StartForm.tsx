import { Autocomplete, Button, NumberInput, Select, TextInput } from '@mantine/core';
import {
  inFiveMinutes,
  STARTS,
  startKind,
  wallAt,
  wallOf,
  weeksLater,
  WEEKDAY_NAMES,
  type ShopRules,
  type Start,
  type StartField,
} from '@carafe/core/occasion';
import { fieldAt, type Shape } from '@carafe/core/shape';
import { useNow } from '../../app/useNow';
import { ProductsChoice } from '../../parts/ProductChoice';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

type Values = Record<string, unknown>;
const KINDS = Object.values(STARTS).map(({ kind, name }) => ({ value: kind, label: name }));

interface Props {
  shop: string;
  /** The shop’s time zone. */
  zone: string;
  start: Start;
  rules: ShopRules;
  segments: readonly string[];
  feeds: readonly string[];
  shape: Shape;
  onChange: (start: Start) => void;
}

/** What starts an occasion, with the few questions that its kind asks. */
export function StartForm({ shop, zone, start, rules, segments, feeds, shape, onChange }: Props) {
  const now = useNow();
  const kind = startKind(start.kind);
  const values = start as unknown as Values;
  const shown = kind.fields.filter(
    (field) =>
      !('when' in field) ||
      !field.when ||
      field.when.is.includes(String(at(values, field.when.path))),
  );
  return (
    <div className={classes.start}>
      <div className={classes.sentence}>{kind.say(start, rules)}</div>
      <div className={classes.line}>
        <Select
          aria-label={t('whatStartsIt')}
          size="xs"
          w={240}
          searchable
          allowDeselect={false}
          data={KINDS}
          value={start.kind}
          onChange={(to) =>
            to && onChange(startKind(to as Start['kind']).make(now.getTime()) as Start)
          }
        />
        {shown.map((field) => (
          <Question
            key={field.path}
            shop={shop}
            shape={shape}
            field={field}
            value={at(values, field.path)}
            choices={field.control === 'segment' ? segments : feeds}
            onPut={(value) => onChange(put(values, field.path, value) as unknown as Start)}
          />
        ))}
      </div>
      <p className={classes.about}>{kind.description}</p>
      {start.kind === 'at_time' && (
        <Once start={start} wall={wallAt(now.getTime(), zone)} onChange={onChange} />
      )}
    </div>
  );
}

interface OnceProps {
  start: Start & { kind: 'at_time' };
  /** What the shop’s clocks show. */
  wall: number;
  onChange: (start: Start) => void;
}

/** A mail of one day: nearly at once, or once more when its day is over. */
function Once({ start, wall, onChange }: OnceProps) {
  const isOver = wallOf(start.time) <= wall;
  const at = (time: string) => onChange({ ...start, time });
  return (
    <div className={classes.line}>
      {isOver && <span>{t('thisTimeHasPassed')}</span>}
      {isOver && (
        <Button
          variant="default"
          size="compact-sm"
          onClick={() => at(weeksLater(start.time, wall))}
        >
          {t('againNextWeek')}
        </Button>
      )}
      <Button variant="default" size="compact-sm" onClick={() => at(inFiveMinutes(wall))}>
        {t('inFiveMinutes')}
      </Button>
    </div>
  );
}

/** A value by its path: `held.n`. */
const at = (values: Values, path: string): unknown =>
  path.split('.').reduce<unknown>((of, name) => (of as Values | undefined)?.[name], values);

function put(values: Values, path: string, value: unknown): Values {
  const [name = '', ...rest] = path.split('.');
  const inside =
    rest.length === 0 ? value : put((values[name] ?? {}) as Values, rest.join('.'), value);
  return { ...values, [name]: inside };
}

/** As wide as its longest answer, which is cut nowhere. */
const widthOf = (options: readonly { label: string }[]): string =>
  `max(200px, calc(${Math.max(...options.map(({ label }) => label.length))}ch + 40px))`;

/** What a question can be answered with, as far as the shop's data tell. */
function offered({ offers }: StartField & { control: 'text' }, shape: Shape): string[] {
  const found = fieldAt(shape, 'valuesOf' in offers ? offers.valuesOf : offers.datesOf);
  if (!found) return [];
  if ('valuesOf' in offers) return [...new Set(found.samples)];
  return found.shape.kind === 'record'
    ? Object.entries(found.shape.fields).flatMap(([name, { shape: of }]) =>
        of.kind === 'date' ? [name] : [],
      )
    : [];
}

interface QuestionProps {
  shop: string;
  shape: Shape;
  field: StartField;
  value: unknown;
  /** Segments or feeds. */
  choices: readonly string[];
  onPut: (value: unknown) => void;
}

function Question({ shop, shape, field, value, choices, onPut }: QuestionProps) {
  const label = field.before || field.path;
  const before = field.before && <span>{field.before}</span>;
  switch (field.control) {
    case 'choice':
      return (
        <>
          {before}
          <Select
            aria-label={label}
            size="xs"
            w={widthOf(field.options)}
            allowDeselect={false}
            data={[...field.options]}
            value={String(value)}
            onChange={(to) => to && onPut(to === 'true' ? true : to === 'false' ? false : to)}
          />
        </>
      );
    case 'number':
      return (
        <>
          {before}
          <NumberInput
            aria-label={label}
            size="xs"
            w={80}
            max={field.most}
            value={typeof value === 'number' ? value : ''}
            onChange={(to) => typeof to === 'number' && onPut(to)}
          />
          {field.after && <span>{field.after}</span>}
        </>
      );
    case 'text':
      return (
        <>
          {before}
          <Autocomplete
            aria-label={label}
            size="xs"
            w={160}
            placeholder={field.hint}
            data={offered(field, shape)}
            // What stands there narrows nothing; what is typed does.
            filter={({ options, search }) =>
              search === value
                ? options
                : options.filter(
                    (one) =>
                      'label' in one && one.label.toLowerCase().includes(search.toLowerCase()),
                  )
            }
            defaultValue={typeof value === 'string' ? value : ''}
            onOptionSubmit={onPut}
            onBlur={({ currentTarget }) =>
              currentTarget.value !== value && onPut(currentTarget.value.trim())
            }
          />
        </>
      );
    case 'time':
    case 'moment':
      return (
        <>
          {before}
          <TextInput
            aria-label={label}
            size="xs"
            type={field.control === 'time' ? 'time' : 'datetime-local'}
            value={typeof value === 'string' ? value : ''}
            onChange={({ currentTarget }) => currentTarget.value && onPut(currentTarget.value)}
          />
        </>
      );
    case 'weekdays':
      return (
        <>
          {before}
          <Weekdays value={Array.isArray(value) ? (value as number[]) : []} onChange={onPut} />
        </>
      );
    case 'products':
      return (
        <>
          {before}
          <ProductsChoice
            shop={shop}
            label={label}
            value={Array.isArray(value) ? (value as string[]) : []}
            most={50}
            inline
            onChange={onPut}
          />
        </>
      );
    case 'segment':
    case 'feed':
      return (
        <>
          {before}
          <Select
            aria-label={field.control === 'segment' ? t('segment') : t('feed')}
            size="xs"
            w={180}
            placeholder={choices.length === 0 ? t('noneYet') : t('chooseOne')}
            data={[...choices]}
            value={typeof value === 'string' && value !== '' ? value : null}
            onChange={(to) => to && onPut(to)}
          />
        </>
      );
  }
}

/** Days of the week that are chosen by a click each. */
export function Weekdays({
  value,
  onChange,
}: {
  value: readonly number[];
  onChange: (days: number[]) => void;
}) {
  return (
    <span className={classes.days} role="group" aria-label={t('daysOfTheWeek')}>
      {WEEKDAY_NAMES.map((name, i) => {
        const day = i + 1;
        const isOn = value.includes(day);
        return (
          <button
            key={name}
            type="button"
            aria-pressed={isOn}
            aria-label={name}
            onClick={() => onChange(isOn ? value.filter((d) => d !== day) : [...value, day].sort())}
          >
            {name.slice(0, 2)}
          </button>
        );
      })}
    </span>
  );
}
