import { kindOf } from '../template/kinds';
import { findNode } from '../template/nodes';
import { walkInlines, type RichText } from '../template/richText';
import type { Template } from '../template/schema';
import { putAt, valueAt } from '../blocks/fields';
import type { FormulaSite } from './site';

/** Changes a tag or the address of a link in a rich text; false where there is none. */
function changeInline(
  text: RichText,
  index: number,
  isAddress: boolean,
  change: (source: string) => string,
): boolean {
  let count = 0;
  let done = false;
  walkInlines(text, (inline) => {
    if (count++ !== index) return;
    if (isAddress) {
      const link = inline.marks?.find((mark) => mark.type === 'link');
      if (link) link.attrs.href = change(link.attrs.href);
      done = link !== undefined;
    } else if (inline.type === 'tag') {
      inline.attrs.formula = change(inline.attrs.formula);
      done = true;
    }
  });
  return done;
}

/**
 * Changes the source of a site of a template that is being edited. Gives false where nothing stands
 * there: some sites are made from others.
 */
export function changeSite(
  template: Template,
  { node: id, path }: Pick<FormulaSite, 'node' | 'path'>,
  change: (source: string) => string,
): boolean {
  const node = id === '' ? undefined : findNode(template, id)?.node;
  if (id !== '' && !node) return false;
  const owner = node ?? template.envelope;
  const rich = (node ? kindOf(node).fields : []).find(
    (field) => field.control === 'rich' && path.startsWith(`${field.path}.`),
  );
  if (rich) {
    const [index, what] = path.slice(rich.path.length + 1).split('.');
    const text = valueAt(owner, rich.path) as RichText;
    return changeInline(text, Number(index), what === 'href', change);
  }
  const source = valueAt(owner, path);
  if (typeof source !== 'string') return false;
  putAt(owner, path, change(source));
  return true;
}
