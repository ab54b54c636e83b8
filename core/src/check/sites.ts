import {
  check,
  parsedFormula,
  print,
  type FormulaFinding,
  type Node,
  type ScopeFrame,
} from '../formula';
import type { Shape } from '../shape';
import type { FormulaSite } from '../site';
import type { Loop } from '../template/parts';
import { framesOf } from './frames';

/** What the checks say of one site. */
export interface SiteFinding extends FormulaFinding {
  /** The node's id; empty for the document itself. */
  node: string;
  path: string;
  /** 1-based column in the formula or running text. */
  column: number;
}

/** The paths that conditions ask to be filled: `a is filled and …`. */
function filledBy(guards: readonly string[]): Set<string> {
  const paths = new Set<string>();
  const take = (node: Node): void => {
    if (node.type === 'binary' && node.op === 'and') {
      take(node.left);
      take(node.right);
    } else if (node.type === 'is' && (node.what === 'filled') !== node.negated)
      paths.add(print(node.of));
  };
  for (const guard of guards) {
    const parsed = parsedFormula(guard);
    if (parsed.ok) take(parsed.value);
  }
  return paths;
}

/**
 * Checks every formula of some sites against the shape of the data. Findings carry the node and the
 * property that they are about, in reading order.
 */
export function checkSites(sites: readonly FormulaSite[], shape: Shape): SiteFinding[] {
  const known = new Map<string, ScopeFrame[]>();
  const framesFor = (loops: readonly Loop[]): ScopeFrame[] => {
    const key = JSON.stringify(loops);
    const frames = known.get(key) ?? framesOf(loops, shape);
    known.set(key, frames);
    return frames;
  };
  return sites.flatMap(({ node, path, parsed, loops, guards, use }): SiteFinding[] => {
    if (!parsed.ok) return [{ severity: 'error', node, path, ...parsed.error }];
    if (parsed.value.length === 0) return [];
    const options = { use, frames: framesFor(loops), filled: filledBy(guards) };
    return parsed.value.flatMap((formula) =>
      check(formula.node, shape, options).findings.map((found) => ({
        ...found,
        node,
        path,
        column: found.start + 1,
      })),
    );
  });
}
