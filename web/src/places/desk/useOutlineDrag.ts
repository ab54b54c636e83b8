import { useState, type DragEvent } from 'react';
import { dropNode, dropSpot, findNode } from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { useEdit } from './useEdit';

/** What is being dragged: the browser tells it only when it falls. */
let dragging: string | null = null;

type Side = 'before' | 'after';

/** Upper or lower half of a line. */
function sideOf({ clientY, currentTarget }: DragEvent<HTMLElement>): Side {
  const { top, height } = currentTarget.getBoundingClientRect();
  return clientY < top + height / 2 ? 'before' : 'after';
}

/** Lets a line of the outline be dragged, and others fall before or behind it where they can stand. */
export function useOutlineDrag(id: string) {
  const dispatch = useAppDispatch();
  const { change, select } = useEdit();
  const [drop, setDrop] = useState<Side | null>(null);
  /** The side on which what is dragged would fall here; null where it cannot. */
  const fitting = (event: DragEvent<HTMLElement>): Side | null => {
    const { template } = store.getState().desk;
    const side = sideOf(event);
    return template && dragging !== null && dropSpot(template, dragging, id, side) ? side : null;
  };
  return {
    drop,
    props: {
      draggable: true,
      onDragStart: (event: DragEvent<HTMLElement>) => {
        dragging = id;
        event.dataTransfer.effectAllowed = 'move';
        event.dataTransfer.setData('text/plain', id);
      },
      onDragEnd: () => {
        dragging = null;
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
        const moved = dragging;
        setDrop(null);
        if (!side || moved === null) return;
        event.preventDefault();
        change('Move', (draft) => dropNode(draft, moved, id, side));
        select(moved);
        const { template } = store.getState().desk;
        const node = template && findNode(template, moved)?.node;
        if (node) dispatch(deskActions.said(`Moved: ${labelOf(node)}.`));
      },
    },
  };
}
