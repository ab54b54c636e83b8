import type { Node } from './ast';
import { functionNamed } from './functions';
import { parse } from './parse';
import { print } from './print';

/** How a merge tag prints its field: a function of it, or a style of date. */
export type TagFormat =
  | 'plain'
  | 'title'
  | 'sentence'
  | 'upper'
  | 'lower'
  | 'money'
  | 'number'
  | 'percent'
  | `date ${'short' | 'medium' | 'long' | 'weekday' | 'time'}`;

/** A merge tag taken apart: what it prints, how, and what stands there when it is blank. */
export interface TagParts {
  /** A formula. */
  what: string;
  format: TagFormat;
  /** Words, when the fallback is plain words. */
  fallback: string | null;
}

const FORMATS = new Set(['title', 'sentence', 'upper', 'lower', 'money', 'number', 'percent']);
const at = { start: 0, end: 0 };

/**
 * Takes a tag apart for a form; null where it says more than a form can show (its formula does not
 * parse, or its fallback is a formula itself).
 */
export function readTag(source: string): TagParts | null {
  const parsed = parse(source);
  if (!parsed.ok) return null;
  let node = parsed.value;
  let fallback: string | null = null;
  if (node.type === 'otherwise') {
    if (node.right.type !== 'text') return null;
    fallback = node.right.value;
    node = node.left;
  }
  const { format, of } = formatOf(node);
  return { what: print(of), format, fallback };
}

function formatOf(node: Node): { format: TagFormat; of: Node } {
  const plain = { format: 'plain' as const, of: node };
  if (node.type !== 'call' || !functionNamed(node.name)) return plain;
  const [of, style] = node.args;
  if (!of) return plain;
  if (FORMATS.has(node.name) && node.args.length === 1)
    return { format: node.name as TagFormat, of };
  if (node.name !== 'date') return plain;
  if (!style) return { format: 'date medium', of };
  const known = style.type === 'text' && /^(?:short|medium|long|weekday|time)$/.test(style.value);
  return known ? { format: `date ${style.value}` as TagFormat, of } : plain;
}

/** Puts a tag together again; null where what it prints does not parse. */
export function writeTag({ what, format, fallback }: TagParts): string | null {
  const parsed = parse(what);
  if (!parsed.ok) return null;
  let node: Node = parsed.value;
  if (format !== 'plain') {
    const [name = '', style] = format.split(' ');
    const args = [node];
    if (style && style !== 'medium') args.push({ type: 'text', value: style, ...at });
    node = { type: 'call', name, args, ...at };
  }
  if (fallback !== null) {
    const right: Node = { type: 'text', value: fallback, ...at };
    node = { type: 'otherwise', left: node, right, ...at };
  }
  return print(node);
}
