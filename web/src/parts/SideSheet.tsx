import type { ReactNode } from 'react';
import { Drawer } from '@mantine/core';
import classes from './parts.module.css';
import { useOverlay } from './useOverlay';

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
  const id = useOverlay({ opened: true, onClose });
  return (
    <Drawer.Root
      opened
      onClose={onClose}
      position="right"
      size={width}
      id={id}
      closeOnEscape={false}
      returnFocus={false}
    >
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
