import type { ReactNode } from 'react';
import { Button, TextInput } from '@mantine/core';
import { IconPlus, IconSearch } from '@tabler/icons-react';
import classes from './PlaceHead.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  title: string;
  /** Beside the title: a search, the choice of a shop. */
  beside?: ReactNode;
  /** What is done here, in a sentence. */
  hint?: ReactNode;
  /** What can be added, and how; nothing, if left out. */
  add?: string;
  /** Beside what can be added; a plus, if left out. */
  icon?: ReactNode;
  onAdd?: () => void;
  /** What it is added to is still on its way: nothing can be added yet. */
  waits?: boolean;
}

/** The head of a place: what it is called, what it shows, and what can be added. */
export function PlaceHead({ title, beside, hint, add, icon, onAdd, waits = false }: Props) {
  return (
    <header className={classes.head}>
      <h1>{title}</h1>
      {beside}
      <span className={classes.hint}>{hint}</span>
      {add !== undefined && (
        <Button
          leftSection={icon === undefined ? <IconPlus size={15} /> : icon}
          onClick={onAdd}
          disabled={waits}
        >
          {add}
        </Button>
      )}
    </header>
  );
}

interface SearchProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

/** The search of a place. */
export function PlaceSearch({ label, value, onChange }: SearchProps) {
  return (
    <TextInput
      aria-label={label}
      placeholder={t('search')}
      leftSection={<IconSearch size={14} />}
      value={value}
      onChange={({ currentTarget }) => onChange(currentTarget.value)}
    />
  );
}
