import { useState, type ReactNode } from 'react';
import { Button, Drawer, Group } from '@mantine/core';
import { Dialog } from './Dialog';
import classes from './parts.module.css';
import { useOverlay } from './useOverlay';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** A sheet at the right edge, over the place that it belongs to. */
export function SideSheet({
  title,
  width,
  isForm = false,
  onClose,
  children,
}: {
  title: string;
  width: number;
  /** What is written in it is kept when it is sent: whoever leaves it before is asked. */
  isForm?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const [isWritten, setWritten] = useState(false);
  const [isAsking, setAsking] = useState(false);
  const leave = () => {
    if (isForm && isWritten) {
      setAsking(true);
      return;
    }
    // A field that keeps what it holds when it is left does so now, too.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    onClose();
  };
  const id = useOverlay({ opened: true, onClose: leave });
  return (
    <Drawer.Root
      opened
      onClose={leave}
      position="right"
      size={width}
      id={id}
      closeOnEscape={false}
      returnFocus={false}
    >
      <Drawer.Overlay />
      <Drawer.Content aria-label={title}>
        <Drawer.Body onInput={() => setWritten(true)} onSubmit={() => setWritten(false)}>
          <div className={classes.sheet}>
            <h2>{title}</h2>
            <Drawer.CloseButton aria-label={t('close')} />
          </div>
          {children}
          {isAsking && (
            <Dialog
              opened
              onClose={() => setAsking(false)}
              title={t('closeWithoutSaving')}
              size="sm"
            >
              <p>{t('whatYouWroteHereIsNot')}</p>
              <Group justify="flex-end" gap={8}>
                <Button variant="default" onClick={onClose}>
                  {t('discard')}
                </Button>
                <Button data-autofocus onClick={() => setAsking(false)}>
                  {t('keepEditing')}
                </Button>
              </Group>
            </Dialog>
          )}
        </Drawer.Body>
      </Drawer.Content>
    </Drawer.Root>
  );
}
