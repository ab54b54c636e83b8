/** Where a piece of a formula stands: UTF-16 offsets into its source, end exclusive. */
export interface Span {
  start: number;
  end: number;
}

export type CompareOperator =
  '=' | '!=' | '<' | '<=' | '>' | '>=' | 'in' | 'not in' | 'contains' | 'starts with' | 'ends with';
export type BinaryOperator = 'or' | 'and' | '&' | '+' | '-' | '*' | '/' | CompareOperator;

/** A parsed formula. Plain data, so that it can be stored, sent and compared. */
export type Node = Span &
  (
    | { type: 'number'; value: number }
    | { type: 'text'; value: string }
    | { type: 'boolean'; value: boolean }
    | { type: 'missing' }
    | { type: 'list'; items: Node[] }
    | { type: 'name'; name: string }
    | { type: 'field'; of: Node; name: string }
    | { type: 'index'; of: Node; index: Node }
    | { type: 'where'; of: Node; test: Node }
    | { type: 'otherwise'; left: Node; right: Node }
    | { type: 'negate'; of: Node }
    | { type: 'not'; of: Node }
    | { type: 'binary'; op: BinaryOperator; left: Node; right: Node }
    | { type: 'is'; of: Node; what: 'filled' | 'empty'; negated: boolean }
    | { type: 'call'; name: string; args: Node[] }
  );

/** The nodes directly inside a node, in reading order. */
export function children(node: Node): Node[] {
  switch (node.type) {
    case 'number':
    case 'text':
    case 'boolean':
    case 'missing':
    case 'name':
      return [];
    case 'list':
      return node.items;
    case 'field':
    case 'negate':
    case 'not':
    case 'is':
      return [node.of];
    case 'index':
      return [node.of, node.index];
    case 'where':
      return [node.of, node.test];
    case 'otherwise':
    case 'binary':
      return [node.left, node.right];
    case 'call':
      return node.args;
  }
}

/** Calls `visit` for a node and everything inside it, outer nodes first. */
export function walk(node: Node, visit: (node: Node) => void): void {
  visit(node);
  for (const child of children(node)) walk(child, visit);
}

/** The names that the paths of some formulas begin with: `cart`, `picks`, … */
export function rootsOf(...formulas: readonly Node[]): Set<string> {
  const roots = new Set<string>();
  for (const formula of formulas)
    walk(formula, (inside) => {
      if (inside.type === 'name') roots.add(inside.name);
    });
  return roots;
}
