import { cloneElement, useEffect, useMemo, useState, type ReactElement } from 'react';
import { Combobox, useCombobox } from '@mantine/core';
import {
  fieldLabel,
  fieldPaths,
  kindName,
  meantFields,
  type Field,
  type FieldPath,
  type Shape,
} from '@carafe/core/shape';
import { FillGlyph } from './FillGlyph';
import { useOwnValue } from './ownValue';
import { useFirstOption } from './useFirstOption';
import classes from './parts.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  shape: Shape;
  frames?: readonly { shape: Shape; as: string | null }[];
  /** What is offered of a field: itself, where this is left out. See `singleValues`. */
  expand?: (path: FieldPath) => FieldPath[];
  /** Only fields for which this holds. */
  only?: (path: FieldPath) => boolean;
  onPick: (path: FieldPath) => void;
  /** It opens by itself where it appears. */
  startOpen?: boolean;
  /** The button that opens it. */
  children: ReactElement<{ onClick?: () => void }>;
}

/** So many fields are shown at most: whoever looks further types more. */
export const MAX_SHOWN = 120;

/** What can be chosen at a place: the fields of its shape, and what they come to. */
export function choicesOf(
  shape: Shape,
  frames: Props['frames'],
  expand: Props['expand'],
): FieldPath[] {
  const paths = fieldPaths(shape, frames);
  return expand ? paths.flatMap(expand) : paths;
}

/** A list of the fields that the data has, with how often each is filled and a sample. */
export function FieldPicker({
  shape,
  frames,
  only,
  expand,
  onPick,
  startOpen = false,
  children,
}: Props) {
  const [query, setQuery] = useState('');
  const combobox = useCombobox({
    defaultOpened: startOpen,
    onDropdownClose: () => {
      combobox.resetSelectedOption();
      setQuery('');
    },
    onDropdownOpen: () => combobox.focusSearchInput(),
  });
  useFirstOption(combobox, query, shape);
  const { focusSearchInput } = combobox;
  useEffect(() => {
    if (startOpen) focusSearchInput();
  }, [startOpen, focusSearchInput]);
  return (
    <Combobox
      store={combobox}
      width={400}
      position="bottom-end"
      shadow="sm"
      withinPortal
      onOptionSubmit={(path) => {
        combobox.closeDropdown();
        const found = choicesOf(shape, frames, expand).find((one) => one.path === path);
        if (found) onPick(found);
      }}
    >
      <Combobox.Target targetType="button">
        {cloneElement(children, { onClick: () => combobox.toggleDropdown() })}
      </Combobox.Target>
      <Combobox.Dropdown data-keep-open>
        {combobox.dropdownOpened && (
          <FieldList
            shape={shape}
            {...(frames && { frames })}
            {...(only && { only })}
            {...(expand && { expand })}
            query={query}
            onQuery={setQuery}
            onLeave={(to) => to !== combobox.targetRef.current && combobox.closeDropdown()}
          />
        )}
      </Combobox.Dropdown>
    </Combobox>
  );
}

function FieldList({
  shape,
  frames,
  only,
  expand,
  query,
  onQuery,
  onLeave,
}: Omit<Props, 'children' | 'onPick'> & {
  query: string;
  onQuery: (query: string) => void;
  /** Somebody went on with the keyboard, to what now has the focus. */
  onLeave: (to: Element) => void;
}) {
  const all = useMemo(
    () => choicesOf(shape, frames, expand).filter(only ?? (() => true)),
    [shape, frames, only, expand],
  );
  const found = meantFields(all, query).slice(0, MAX_SHOWN);
  return (
    <div
      role="dialog"
      aria-label={t('chooseAField')}
      onBlur={({ currentTarget, relatedTarget }) => {
        if (relatedTarget && !currentTarget.contains(relatedTarget)) onLeave(relatedTarget);
      }}
    >
      <Combobox.Search
        aria-label={t('searchFields')}
        placeholder={t('searchFieldsAndSamples')}
        value={query}
        onChange={({ currentTarget: { value } }) => onQuery(value)}
      />
      <FieldOptions found={found} query={query} />
    </div>
  );
}

/** Fields to choose from, in their groups. */
export function FieldOptions({ found, query }: { found: readonly FieldPath[]; query: string }) {
  const groups = [...new Set(found.map(({ group }) => group))];
  return (
    <Combobox.Options aria-label={t('fields')} tabIndex={0} mah={280} style={{ overflow: 'auto' }}>
      {groups.map((group) => (
        <Combobox.Group key={group} label={group}>
          {found
            .filter((path) => path.group === group)
            .map((path) => (
              <FieldOption key={path.path} path={path} />
            ))}
        </Combobox.Group>
      ))}
      {found.length === 0 && (
        <Combobox.Empty>{t('noFieldHasQueryInIts', { query })}</Combobox.Empty>
      )}
    </Combobox.Options>
  );
}

/** Samples of one field often begin alike, as addresses do: what is too long is shortened in its middle. */
const MOST_LETTERS = 36;
const AT_THE_END = 14;
function inTheMiddle(sample: string): string {
  const letters = Array.from(sample);
  if (letters.length <= MOST_LETTERS) return sample;
  const begin = letters.slice(0, MOST_LETTERS - AT_THE_END - 1).join('');
  return `${begin}…${letters.slice(-AT_THE_END).join('')}`;
}

/** How long a list usually is, or of what kind anything else is. */
function lengthOf({ shape, length }: Field): string {
  if (!length) return kindName(shape);
  const { usual, most } = length;
  return usual === most
    ? t('usualInTheList', { usual })
    : t('usuallyUsualAtMostMost', { usual, most });
}

function FieldOption({ path: { path, label, field } }: { path: FieldPath }) {
  const own = useOwnValue()(path);
  const share = field.of === 0 ? 0 : field.filled / field.of;
  return (
    <Combobox.Option value={path} className={classes.field ?? ''}>
      <FillGlyph share={share} />
      <span className={classes.called}>
        <span>{label ?? fieldLabel(path)}</span>
        <span className={classes.path}>{path}</span>
      </span>
      <span className={classes.sample}>
        {own === '' ? t('blankHere') : inTheMiddle(own ?? field.samples[0] ?? lengthOf(field))}
      </span>
      <span className={classes.share}>{Math.round(share * 100)} %</span>
    </Combobox.Option>
  );
}
