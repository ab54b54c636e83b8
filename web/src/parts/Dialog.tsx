import { Modal, type ModalProps } from '@mantine/core';
import { useOverlay } from './useOverlay';

/** A dialog over the page. */
export function Dialog({ closeOnEscape = true, returnFocus = true, ...props }: ModalProps) {
  const { opened, onClose } = props;
  const id = useOverlay({ opened, onClose, closeOnEscape, returnFocus });
  return <Modal {...props} id={id} closeOnEscape={false} returnFocus={false} />;
}
