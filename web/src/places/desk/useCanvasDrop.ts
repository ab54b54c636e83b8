import { useCallback, useRef, useState } from 'react';
import { canFall, fall, type Side } from './dragging';
import { nodeAt, type Box } from './frame';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';

/** Where something would fall in the mail, in the frame's own pixels. */
export interface FallLine {
  left: number;
  top: number;
  width: number;
}

/** The half of a node that something would fall on at a point; null where it cannot. */
function targetAt(boxes: readonly Box[], x: number, y: number): { box: Box; side: Side } | null {
  const node = nodeAt(boxes, x, y);
  const box = boxes.find((one) => one.node === node);
  if (!box) return null;
  const side: Side = y < box.top + box.height / 2 ? 'before' : 'after';
  return canFall(box.node, side) ? { box, side } : null;
}

/** Lets blocks fall into the mail, with a line where they would. `watch` is for each document of the frame. */
export function useCanvasDrop(boxes: () => readonly Box[]): {
  line: FallLine | null;
  watch: (page: Document) => void;
} {
  const [line, setLine] = useState<FallLine | null>(null);
  const latest = { editing: useEdit(), desk: useDesk() };
  const now = useRef(latest);
  now.current = latest;
  const watch = useCallback(
    (page: Document) => {
      page.addEventListener('dragover', (event) => {
        const target = targetAt(boxes(), event.clientX, event.clientY);
        if (target) event.preventDefault();
        setLine(
          target && {
            left: target.box.left,
            width: target.box.width,
            top: target.box.top + (target.side === 'after' ? target.box.height : 0),
          },
        );
      });
      page.addEventListener('dragleave', () => setLine(null));
      page.addEventListener('drop', (event) => {
        event.preventDefault();
        setLine(null);
        const target = targetAt(boxes(), event.clientX, event.clientY);
        if (target) fall(target.box.node, target.side, now.current.editing, now.current.desk);
      });
    },
    [boxes],
  );
  return { line, watch };
}
