import type { DerivedFormula } from '../blocks/define';
import { fieldsAt, valueAt } from '../blocks/fields';
import { kindOf } from '../template/kinds';
import { itemsOf, walkNodes } from '../template/nodes';
import type { Loop } from '../template/parts';
import { walkInlines, type RichText } from '../template/richText';
import type { Template, TemplateNode } from '../template/schema';
import { formulasOf, type FormulaSite } from './site';

type Found = Omit<FormulaSite, 'owner' | 'node' | 'parsed' | 'guards'>;
type Add = (site: Found) => void;

function loopSites(loop: Loop, path: string, loops: readonly Loop[], add: Add): void {
  const inside = [...loops, loop];
  const formula = (name: string, source: string, use: Found['use'], at: readonly Loop[]) =>
    add({ path: `${path}.${name}`, form: 'formula', use, source, loops: at });
  add({ path: `${path}.list`, form: 'formula', use: 'list', source: loop.list, loops, loop });
  if (loop.where) formula('where', loop.where, 'condition', inside);
  if (loop.fill) formula('fill', loop.fill, 'list', loops);
  if (loop.sort) formula('sort.by', loop.sort.by, 'value', inside);
}

function richSites(text: RichText, path: string, loops: readonly Loop[], add: Add): void {
  let count = 0;
  walkInlines(text, (inline) => {
    const at = `${path}.${count++}`;
    if (inline.type === 'tag')
      add({ path: at, form: 'formula', use: 'tag', source: inline.attrs.formula, loops });
    for (const mark of inline.marks ?? [])
      if (mark.type === 'link' && mark.attrs.href)
        add({ path: `${at}.href`, form: 'running', use: 'tag', source: mark.attrs.href, loops });
  });
}

/** What the fields of a node hold, by what its kind says of them. */
function fieldSites(node: TemplateNode, loops: readonly Loop[], add: Add): void {
  const items = itemsOf(node);
  const inItems = items ? [...loops, items] : loops;
  const kind = kindOf(node) as ReturnType<typeof kindOf> & {
    derived?: (node: TemplateNode) => DerivedFormula[];
  };
  for (const { field, path, inList } of fieldsAt(node, kind.fields)) {
    const value = valueAt(node, path);
    const at = inList ? inItems : loops;
    if (field.control === 'rich') richSites(value as RichText, path, at, add);
    else if (typeof value !== 'string' || value === '') continue;
    else if (field.control === 'line') {
      // What is left out without its address or code needs no fallback for a blank one.
      const use = field.holds === 'picture' || field.holds === 'code' ? 'value' : 'tag';
      add({ path, form: 'running', use, source: value, loops: at });
    } else if (field.control === 'formula')
      add({ path, form: 'formula', use: field.use, source: value, loops: at });
  }
  for (const { path, source, use, inList } of kind.derived?.(node) ?? [])
    add({ path, form: 'formula', use, source, loops: inList ? inItems : loops });
}

const ENVELOPE = ['from_name', 'to_name', 'subject', 'preview_text'] as const;

function collect(template: Template): FormulaSite[] {
  const sites: FormulaSite[] = [];
  const put = (node: string, guards: readonly string[]) => (found: Found) =>
    sites.push({
      ...found,
      owner: 'template',
      node,
      guards,
      parsed: formulasOf(found.form, found.source),
    });
  const envelope = put('', []);
  for (const path of ENVELOPE) {
    const source = template.envelope[path];
    // A recipient’s name that is blank is left out.
    const use = path === 'to_name' ? 'value' : 'tag';
    if (source) envelope({ path, form: 'running', use, source, loops: [] });
  }
  const { only_if: onlyIf } = template.envelope;
  if (onlyIf)
    envelope({ path: 'only_if', form: 'formula', use: 'condition', source: onlyIf, loops: [] });
  (template.link_tags ?? []).forEach(({ value }, i) => {
    // A blank one is left out of the address: it needs no fallback.
    if (value)
      envelope({
        path: `link_tags.${i}.value`,
        form: 'running',
        use: 'value',
        source: value,
        loops: [],
      });
  });
  walkNodes(template, ({ node, parents }) => {
    const outer = parents.flatMap((parent) => (parent.loop ? [parent.loop] : []));
    const around = parents.flatMap((parent) => (parent.when !== undefined ? [parent.when] : []));
    const { when, loop } = node;
    const add = put(node.id, when === undefined ? around : [...around, when]);
    // A node's condition is asked once, before its loop.
    if (when !== undefined)
      put(
        node.id,
        around,
      )({
        path: 'when',
        form: 'formula',
        use: 'condition',
        source: when,
        loops: outer,
      });
    if (loop) loopSites(loop, 'loop', outer, add);
    const loops = loop ? [...outer, loop] : outer;
    const items = itemsOf(node);
    const { list } = kindOf(node) as { list?: string };
    if (items && list) loopSites(items, list, loops, add);
    fieldSites(node, loops, add);
  });
  return sites;
}

const kept = new WeakMap<Template, readonly FormulaSite[]>();

/**
 * Every formula and running text of a template, in reading order. Found once for a document that
 * cannot change any more (frozen, as edits and `readTemplate` give it).
 */
export function templateSites(template: Template): readonly FormulaSite[] {
  const known = kept.get(template);
  if (known) return known;
  const sites = collect(template);
  if (Object.isFrozen(template)) kept.set(template, sites);
  return sites;
}
