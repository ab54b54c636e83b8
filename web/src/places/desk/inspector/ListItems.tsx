import type { ReactNode } from 'react';
import { ActionIcon } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconX } from '@tabler/icons-react';
import classes from './Inspector.module.css';

interface Props<T> {
  items: readonly T[];
  nameOf: (item: T) => string;
  onChange: (items: T[]) => void;
  render: (item: T, index: number) => ReactNode;
}

/** A short list whose members can be put in order and taken out; at least one stays. */
export function ListItems<T>({ items, nameOf, onChange, render }: Props<T>) {
  const swap = (i: number, j: number) => {
    const next = [...items];
    const [a, b] = [next[i], next[j]];
    if (a === undefined || b === undefined) return;
    next[i] = b;
    next[j] = a;
    onChange(next);
  };
  const button = (says: string, ButtonIcon: typeof IconX, disabled: boolean, run: () => void) => (
    <ActionIcon variant="subtle" size={18} aria-label={says} disabled={disabled} onClick={run}>
      <ButtonIcon size={13} />
    </ActionIcon>
  );
  return (
    <>
      {items.map((item, i) => {
        const name = nameOf(item);
        return (
          <div key={`${name} ${i}`} className={classes.item}>
            <div className={classes.itemHead}>
              <span style={{ flex: 1 }}>{name}</span>
              {button(`Move ${name} up`, IconArrowUp, i === 0, () => swap(i, i - 1))}
              {button(`Move ${name} down`, IconArrowDown, i === items.length - 1, () =>
                swap(i, i + 1),
              )}
              {button(`Take ${name} out`, IconX, items.length === 1, () =>
                onChange(items.filter((_, at) => at !== i)),
              )}
            </div>
            {render(item, i)}
          </div>
        );
      })}
    </>
  );
}
