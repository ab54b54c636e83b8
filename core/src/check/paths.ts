import { children, parse, parseRunning, type Node } from '../formula';
import type { Loop, Template } from '../template';
import { walkSlots } from '../template/slots';

/** What the names of loops stand for: the path of the list that they walk. */
type Names = ReadonlyMap<string, string>;

/** Functions whose result is made of members of their first argument. */
const OF_MEMBERS = new Set(['first', 'last', 'sort', 'distinct']);

/** The path of what a formula gives, where it is part of the record; lists stand for their members. */
function pathOf(node: Node, names: Names): string | null {
  switch (node.type) {
    case 'name':
      return names.get(node.name) ?? node.name;
    case 'field': {
      const of = pathOf(node.of, names);
      return of === null ? null : `${of}.${node.name}`;
    }
    case 'index': {
      const of = pathOf(node.of, names);
      return of !== null && node.index.type === 'text' ? `${of}.${node.index.value}` : of;
    }
    case 'where':
      return pathOf(node.of, names);
    case 'otherwise':
      return pathOf(node.left, names);
    case 'call': {
      const [first] = node.args;
      return first && OF_MEMBERS.has(node.name) ? pathOf(first, names) : null;
    }
    default:
      return null;
  }
}

/** Adds every path that a formula names; bare names inside a list's own scope are also its members' fields. */
function collect(node: Node, names: Names, member: string | null, paths: Set<string>): void {
  if (node.type === 'name' || node.type === 'field' || node.type === 'index') {
    const path = pathOf(node, names);
    if (path !== null) {
      paths.add(path);
      if (member !== null && !names.has(path.split('.')[0] ?? '')) paths.add(`${member}.${path}`);
    }
  }
  if (node.type === 'where') {
    collect(node.of, names, member, paths);
    collect(node.test, names, pathOf(node.of, names), paths);
    return;
  }
  if (node.type === 'call') {
    const [first, ...others] = node.args;
    if (first) collect(first, names, member, paths);
    const inside = (first && pathOf(first, names)) ?? member;
    for (const other of others) collect(other, names, inside, paths);
    return;
  }
  for (const child of children(node)) collect(child, names, member, paths);
}

function namesOf(loops: readonly Loop[]): { names: Names; member: string | null } {
  const names = new Map<string, string>();
  let member: string | null = null;
  for (const { list, as } of loops) {
    const parsed = parse(list);
    const path = parsed.ok ? pathOf(parsed.value, names) : null;
    if (path === null) continue;
    names.set(as, path);
    member = path;
  }
  return { names, member };
}

/** Every path of the record that a template names, loops resolved: `cart.lines.name`. */
export function pathsRead(template: Template): Set<string> {
  const paths = new Set<string>();
  walkSlots(template, ({ form, source, loops }) => {
    const { names, member } = namesOf(loops);
    const add = (node: Node) => collect(node, names, member, paths);
    if (form === 'formula') {
      const parsed = parse(source);
      if (parsed.ok) add(parsed.value);
      return;
    }
    const parsed = parseRunning(source);
    if (parsed.ok) for (const s of parsed.value) if (s.type === 'tag') add(s.node);
  });
  return paths;
}

/**
 * The fields below some paths that a template names, or null where it names none of the paths at all.
 * A path is a list of names: ['catalog', 'garden'].
 */
export function fieldsRead(template: Template, below: readonly string[][]): string[] | null {
  const fields = new Set<string>();
  let isRead = false;
  for (const path of pathsRead(template)) {
    const parts = path.split('.');
    for (const prefix of below) {
      if (!prefix.every((name, i) => parts[i] === name)) continue;
      isRead = true;
      const field = parts[prefix.length];
      if (field !== undefined) fields.add(field);
    }
  }
  return isRead ? [...fields].sort() : null;
}
