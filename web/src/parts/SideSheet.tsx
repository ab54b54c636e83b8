import type { ReactNode } from 'react';
import { Drawer } from '@mantine/core';
import classes from './parts.module.css';

/** A sheet at the right edge, over the place that it belongs to. */
export function SideSheet({
  title,
  width,
  onClose,
  children,
}: {
  title: string;
  width: number;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Drawer.Root opened onClose={onClose} position="right" size={width}>
      <Drawer.Overlay />
      <Drawer.Content aria-label={title}>
        <Drawer.Body>
          <div className={classes.sheet}>
            <h2>{title}</h2>
            <Drawer.CloseButton aria-label="Close" />
          </div>
          {children}
        </Drawer.Body>
      </Drawer.Content>
    </Drawer.Root>
  );
}
