/** Where a node stands in the mail, in the frame's own pixels. */
export interface Box {
  node: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

interface Bounds {
  node: string;
  /** Of words of a node: the path of their field. */
  path?: string;
  start: Comment;
  end: Comment;
}

const LONGEST_BOUND = 300;

/** The comments that bound each node and each field, in the order in which they begin. */
function boundsOf(frame: Document): Bounds[] {
  const walker = frame.createTreeWalker(frame.body, NodeFilter.SHOW_COMMENT);
  const open: Bounds[] = [];
  const all: Bounds[] = [];
  for (let comment = walker.nextNode(); comment; comment = walker.nextNode()) {
    // What only one mail program reads stands in comments, too, and is long.
    if ((comment as Comment).length > LONGEST_BOUND) continue;
    const text = (comment as Comment).data;
    if (text.startsWith('node ')) {
      const bounds = { node: text.slice(5), start: comment as Comment, end: comment as Comment };
      open.push(bounds);
      all.push(bounds);
    } else if (text.startsWith('field ')) {
      const node = open.findLast((one) => one.path === undefined)?.node ?? '';
      const bounds = {
        node,
        path: text.slice(6),
        start: comment as Comment,
        end: comment as Comment,
      };
      open.push(bounds);
      all.push(bounds);
    } else if (text === '/node' || text === '/field') {
      const bounds = open.pop();
      if (bounds) bounds.end = comment as Comment;
    }
  }
  return all;
}

/** One range a document: each that there is follows every change, which hundreds of them make slow. */
const ranges = new WeakMap<Document, Range>();

function rangeOf(frame: Document): Range {
  const range = ranges.get(frame) ?? frame.createRange();
  ranges.set(frame, range);
  return range;
}

/** What stands between the bounds of a node: elements beside each other, else whatever the range covers. */
function rectsOf({ start, end }: Bounds, range: Range): DOMRect[] {
  const rects: DOMRect[] = [];
  let at = start.nextSibling;
  for (; at && at !== end; at = at.nextSibling) {
    // Elements of the frame are of its own window.
    if (at.nodeType === Node.ELEMENT_NODE) rects.push((at as Element).getBoundingClientRect());
    else if (at.nodeType === Node.TEXT_NODE && at.textContent?.trim()) break;
  }
  if (at === end) return rects;
  range.setStartAfter(start);
  range.setEndBefore(end);
  return [range.getBoundingClientRect()];
}

/** The boxes of all nodes, outer ones before inner ones. */
export function boxesOf(frame: Document): Box[] {
  const range = rangeOf(frame);
  const nodes = boundsOf(frame).filter(({ path }) => path === undefined);
  const boxes = nodes.flatMap((bounds) => {
    const rects = rectsOf(bounds, range).filter(({ height }) => height > 0);
    if (rects.length === 0) return [];
    const left = Math.min(...rects.map((rect) => rect.left));
    const top = Math.min(...rects.map((rect) => rect.top));
    const width = Math.max(...rects.map((rect) => rect.right)) - left;
    const height = Math.max(...rects.map((rect) => rect.bottom)) - top;
    return [{ node: bounds.node, left, top, width, height }];
  });
  range.selectNodeContents(frame);
  range.collapse(true);
  return boxes;
}

/** Words of a field where they stand, with the type that they are in. */
export interface FieldBox extends Box {
  path: string;
  css: {
    color: string;
    fontFamily: string;
    fontSize: string;
    lineHeight: string;
    textAlign: string;
  };
}

function fieldBox(frame: Document, { node, path = '', start, end }: Bounds): FieldBox | null {
  const range = rangeOf(frame);
  range.setStartAfter(start);
  range.setEndBefore(end);
  const { left, top, width, height } = range.getBoundingClientRect();
  const around = start.parentElement;
  const style = around && frame.defaultView?.getComputedStyle(around);
  if (height === 0 || !style) return null;
  const { color, fontFamily, fontSize, lineHeight, textAlign } = style;
  return {
    ...{ node, path, left, top, width, height },
    css: { color, fontFamily, fontSize, lineHeight, textAlign },
  };
}

const holds = ({ left, top, width, height }: Omit<Box, 'node'>, x: number, y: number): boolean =>
  x >= left && x <= left + width && y >= top && y <= top + height;

/** The words of a field at a point of the frame, or of the cell that the point is in; the smallest of several. */
export function fieldAt(frame: Document, x: number, y: number): FieldBox | null {
  const all = boundsOf(frame)
    .filter(({ path }) => path !== undefined)
    .flatMap((bounds) => {
      const box = fieldBox(frame, bounds);
      const cell = bounds.start.parentElement?.getBoundingClientRect();
      return box && cell ? [{ box, cell }] : [];
    });
  const size = ({ width, height }: Omit<Box, 'node'>) => width * height;
  const under = all.filter(({ box }) => holds(box, x, y)).map(({ box }) => box);
  const near = all
    .filter(({ cell }) => holds(cell, x, y))
    .sort((one, other) => size(one.cell) - size(other.cell));
  return under.sort((one, other) => size(one) - size(other))[0] ?? near[0]?.box ?? null;
}

/** The innermost node at a point. */
export function nodeAt(boxes: readonly Box[], x: number, y: number): string | null {
  const under = boxes.filter(
    (b) => x >= b.left && x <= b.left + b.width && y >= b.top && y <= b.top + b.height,
  );
  return under.at(-1)?.node ?? null;
}
