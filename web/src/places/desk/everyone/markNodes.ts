import { boxesOf } from '../frame';

const MARK = 'data-carafe-mark';

/** Draws frames round some nodes of a mail that stands in a frame, in place of those that were there. */
export function markNodes(frame: HTMLIFrameElement, nodes: readonly string[]): void {
  const page = frame.contentDocument;
  if (!page?.body) return;
  for (const old of page.querySelectorAll(`[${MARK}]`)) old.remove();
  for (const { node, left, top, width, height } of boxesOf(page)) {
    if (!nodes.includes(node)) continue;
    const mark = page.createElement('div');
    mark.setAttribute(MARK, node);
    mark.style.cssText = `position:absolute;left:${left}px;top:${top}px;width:${width}px;height:${height}px;outline:3px solid #a34821;outline-offset:-3px;background:#a3482108;pointer-events:none`;
    page.body.append(mark);
  }
}
