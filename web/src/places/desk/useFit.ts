import type { RefCallback } from 'react';
import { useElementSize } from '@mantine/hooks';

/** The room of the canvas around the email at its sides, in pixels. */
const SIDES = 32;

/** How an email of a width is shown: the width that it is laid out in, and by how much it is made smaller to fit. */
export interface Fit {
  /** The pane that it has to fit. */
  pane: RefCallback<HTMLElement>;
  /** Pixels. */
  width: number;
  /** 1 where it has room. */
  scale: number;
}

/** Keeps an email at its own width, made smaller where the pane is narrower: a desktop's layout stays a desktop's. */
export function useFit(width: number): Fit {
  const { ref, width: inner } = useElementSize<HTMLElement>();
  // Before the pane is measured, there is room.
  const room = inner > SIDES ? inner - SIDES : width;
  return { pane: ref, width, scale: Math.min(1, room / width) };
}
