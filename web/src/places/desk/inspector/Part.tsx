import { useState, type ReactNode } from 'react';
import { Stack, UnstyledButton } from '@mantine/core';
import { IconChevronDown, IconChevronRight } from '@tabler/icons-react';
import classes from './Inspector.module.css';

/** One question of the inspector with its answers; opened and closed by its title. */
export function Part({
  title,
  closed = false,
  children,
}: {
  title: string;
  closed?: boolean;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(!closed);
  return (
    <section className={classes.part}>
      <h3 style={{ margin: 0 }}>
        <UnstyledButton
          className={classes.partTitle}
          aria-expanded={open}
          onClick={() => setOpen((o) => !o)}
        >
          {open ? <IconChevronDown size={14} /> : <IconChevronRight size={14} />}
          {title}
        </UnstyledButton>
      </h3>
      {open && <Stack gap={10}>{children}</Stack>}
    </section>
  );
}
