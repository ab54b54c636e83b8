import { walkInlines } from './richtext';
import type { Template, TemplateNode } from './schema';

/**
 * Changes the source in the slot at a path of a node (or of the envelope, for null), as walkSlots
 * names them. Gives false where nothing stands there: some slots are made from others.
 */
export function changeSlot(
  template: Template,
  node: TemplateNode | null,
  path: string,
  change: (source: string) => string,
): boolean {
  const steps = path.split('.');
  if (node?.kind === 'text' && steps[0] === 'text') {
    const wanted = Number(steps[1]);
    let count = 0;
    let written = false;
    walkInlines(node.text, (inline) => {
      if (count++ !== wanted) return;
      if (steps[2] === 'href') {
        const link = inline.marks?.find((mark) => mark.type === 'link');
        if (link) link.attrs.href = change(link.attrs.href);
        written = link !== undefined;
      } else if (inline.type === 'tag') {
        inline.attrs.formula = change(inline.attrs.formula);
        written = true;
      }
    });
    return written;
  }
  const last = steps.pop() ?? '';
  let owner: unknown = node ?? template.envelope;
  for (const step of steps) {
    if (typeof owner !== 'object' || owner === null || !Object.hasOwn(owner, step)) return false;
    owner = (owner as Record<string, unknown>)[step];
  }
  if (typeof owner !== 'object' || owner === null || !Object.hasOwn(owner, last)) return false;
  const fields = owner as Record<string, unknown>;
  const source = fields[last];
  if (typeof source !== 'string') return false;
  fields[last] = change(source);
  return true;
}
