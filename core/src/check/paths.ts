import { children, parsedFormula, walk, type Node } from '../formula';
import { walkFormulas, type FormulaSite } from '../site';
import type { Loop } from '../template/parts';

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
    const parsed = parsedFormula(list);
    const path = parsed.ok ? pathOf(parsed.value, names) : null;
    if (path === null) continue;
    names.set(as, path);
    member = path;
  }
  return { names, member };
}

/** Every path of the record that some sites name, loops resolved: `cart.lines.name`. */
export function pathsRead(sites: readonly FormulaSite[]): Set<string> {
  const paths = new Set<string>();
  walkFormulas(sites, (formula, { loops }) => {
    const { names, member } = namesOf(loops);
    collect(formula, names, member, paths);
  });
  return paths;
}

/**
 * The fields below some paths that sites name, or null where they name none of the paths at all.
 * A path is a list of names: ['catalog', 'garden'].
 */
export function fieldsRead(
  sites: readonly FormulaSite[],
  below: readonly string[][],
): string[] | null {
  const fields = new Set<string>();
  let isRead = false;
  for (const path of pathsRead(sites)) {
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

/** The catalogs that sites name; null where they may mean any (`catalog["a" & x]`). */
export function catalogsRead(sites: readonly FormulaSite[]): string[] | null {
  const names = new Set<string>();
  for (const path of pathsRead(sites)) {
    const [root, name] = path.split('.');
    if (root === 'catalog' && name !== undefined) names.add(name);
  }
  return isComputed(sites) ? null : [...names].sort();
}

/** Whether a catalog is chosen by something that only the record tells. */
function isComputed(sites: readonly FormulaSite[]): boolean {
  let found = false;
  walkFormulas(sites, (formula) =>
    walk(formula, (node) => {
      if (node.type === 'index' && node.of.type === 'name' && node.of.name === 'catalog')
        found ||= node.index.type !== 'text';
    }),
  );
  return found;
}
