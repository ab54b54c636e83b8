import { useState, type DragEvent } from 'react';
import { beginDrag, canFall, endDrag, fall, type Side } from './dragging';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';

/** Upper or lower half of a line. */
function sideOf({ clientY, currentTarget }: DragEvent<HTMLElement>): Side {
  const { top, height } = currentTarget.getBoundingClientRect();
  return clientY < top + height / 2 ? 'before' : 'after';
}

/** Lets a line of the outline be dragged, and others fall before or behind it where they can stand. */
export function useOutlineDrag(id: string) {
  const editing = useEdit();
  const desk = useDesk();
  const [drop, setDrop] = useState<Side | null>(null);
  /** The side on which what is dragged would fall here; null where it cannot. */
  const fitting = (event: DragEvent<HTMLElement>): Side | null => {
    const side = sideOf(event);
    return canFall(id, side) ? side : null;
  };
  return {
    drop,
    props: {
      draggable: true,
      onDragStart: (event: DragEvent<HTMLElement>) => beginDrag(id, event.dataTransfer),
      onDragEnd: () => {
        endDrag();
        setDrop(null);
      },
      onDragOver: (event: DragEvent<HTMLElement>) => {
        const side = fitting(event);
        if (side) event.preventDefault();
        if (side !== drop) setDrop(side);
      },
      onDragLeave: () => setDrop(null),
      onDrop: (event: DragEvent<HTMLElement>) => {
        const side = fitting(event);
        setDrop(null);
        if (!side) return;
        event.preventDefault();
        fall(id, side, editing, desk);
      },
    },
  };
}
