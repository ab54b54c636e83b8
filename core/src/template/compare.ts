import { fieldsAt, valueAt } from '../blocks/fields';
import { richGist } from './gist';
import { documentLabel } from './nodeNames';
import { kindOf } from './kinds';
import { walkNodes } from './nodes';
import type { RichText } from './richText';
import type { Template, TemplateNode } from './schema';

/** One thing that two versions of a template have otherwise. */
export interface Difference {
  what: 'added' | 'removed' | 'changed';
  /** What it is about, in words. */
  label: string;
  /** Of what changed, both sides in short. */
  mine: string;
  theirs: string;
}

const MAX_LENGTH = 60;

function inShort(value: unknown): string {
  if (value === undefined || value === '') return 'nothing';
  const text =
    typeof value === 'object' && value !== null && (value as { type?: unknown }).type === 'doc'
      ? richGist(value as RichText)
      : typeof value === 'object'
        ? JSON.stringify(value)
        : String(value as string | number | boolean);
  return text.length > MAX_LENGTH ? `${text.slice(0, MAX_LENGTH - 1)}…` : text;
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const labelOf = (node: TemplateNode) => kindOf(node).label(node as never);

function nodesOf(template: Template): Map<string, TemplateNode> {
  const nodes = new Map<string, TemplateNode>();
  walkNodes(template, ({ node }) => nodes.set(node.id, node));
  return nodes;
}

const ENVELOPE = ['subject', 'preview_text', 'from_name', 'from_email', 'to_name'] as const;

/** What two versions of one template have otherwise, part by part, in reading order. */
export function compareTemplates(mine: Template, theirs: Template): Difference[] {
  const found: Difference[] = [];
  const changed = (label: string, a: unknown, b: unknown) => {
    if (!same(a, b)) found.push({ what: 'changed', label, mine: inShort(a), theirs: inShort(b) });
  };
  changed('Name', mine.name, theirs.name);
  changed('Shop', mine.shop, theirs.shop);
  changed('Language', mine.language, theirs.language);
  for (const path of [...ENVELOPE, 'only_if'] as const)
    changed(documentLabel(path), mine.envelope[path], theirs.envelope[path]);
  changed(documentLabel('link_tags'), mine.link_tags, theirs.link_tags);
  for (const key of Object.keys(mine.style) as (keyof Template['style'])[])
    changed(`House style, ${key.replace(/_/g, ' ')}`, mine.style[key], theirs.style[key]);
  const own = nodesOf(mine);
  const other = nodesOf(theirs);
  for (const [id, node] of own) {
    const label = labelOf(node);
    const there = other.get(id);
    if (!there) found.push({ what: 'removed', label, mine: label, theirs: '' });
    else {
      changed(`${label}: condition`, node.when, there.when);
      changed(`${label}: loop`, node.loop, there.loop);
      changed(`${label}: list`, listOf(node), listOf(there));
      if (node.kind === there.kind)
        for (const { field, path } of fieldsAt(node, kindOf(node).fields))
          if (field.control !== 'list')
            changed(
              `${label}: ${field.label.toLowerCase()}`,
              valueAt(node, path),
              valueAt(there, path),
            );
    }
  }
  for (const [id, node] of other)
    if (!own.has(id))
      found.push({ what: 'added', label: labelOf(node), mine: '', theirs: labelOf(node) });
  if (found.length === 0) changed('Order of the parts', [...own.keys()], [...other.keys()]);
  if (found.length === 0) changed('The rest', mine, theirs);
  return found;
}

function listOf(node: TemplateNode): unknown {
  const { list } = kindOf(node) as { list?: string };
  return list === undefined ? undefined : valueAt(node, list);
}
