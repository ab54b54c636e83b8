import {
  check,
  parse,
  parseRunning,
  print,
  type FormulaFinding,
  type Node,
  type ScopeFrame,
} from '../formula';
import { ANY, memberShape, type Shape } from '../shape';
import type { Loop, Slot, Template } from '../template';
import { walkSlots } from '../template/slots';

/** What the checks say of one place in a template. */
export interface TemplateFinding extends FormulaFinding {
  /** The node's id; empty for the envelope. */
  node: string;
  path: string;
  /** 1-based column in the formula or running text. */
  column: number;
}

/** The shapes that loops bring into scope, from the outside in. */
export function framesOf(loops: readonly Loop[], shape: Shape): ScopeFrame[] {
  const frames: ScopeFrame[] = [];
  for (const loop of loops) {
    const parsed = parse(loop.list);
    const type = parsed.ok ? check(parsed.value, shape, { frames }).type : ANY;
    frames.push({ shape: memberShape(type), as: loop.as });
  }
  return frames;
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
    const parsed = parse(guard);
    if (parsed.ok) take(parsed.value);
  }
  return paths;
}

/** The formulas of a slot. */
function formulasOf(slot: Slot): Node[] {
  if (slot.form === 'formula') {
    const parsed = parse(slot.source);
    return parsed.ok ? [parsed.value] : [];
  }
  const parsed = parseRunning(slot.source);
  if (!parsed.ok) return [];
  return parsed.value.flatMap((s) => (s.type === 'tag' ? [s.node] : []));
}

/** The formulas and running texts of a template that do not parse, as findings. */
function unreadable(slot: Slot): TemplateFinding[] {
  const parsed = slot.form === 'formula' ? parse(slot.source) : parseRunning(slot.source);
  if (parsed.ok) return [];
  const { start, end, column, message } = parsed.error;
  return [
    { severity: 'error', node: slot.node?.id ?? '', path: slot.path, start, end, column, message },
  ];
}

/**
 * Checks every formula of a template against the shape of the data. Findings carry the node and
 * the property that they are about, in reading order.
 */
export function checkTemplate(template: Template, shape: Shape): TemplateFinding[] {
  const findings: TemplateFinding[] = [];
  walkSlots(template, (slot) => {
    findings.push(...unreadable(slot));
    const frames = framesOf(slot.loops, shape);
    const filled = filledBy(slot.guards);
    for (const node of formulasOf(slot)) {
      for (const found of check(node, shape, { use: slot.use, frames, filled }).findings)
        findings.push({
          ...found,
          node: slot.node?.id ?? '',
          path: slot.path,
          column: found.start + 1,
        });
    }
  });
  return findings;
}
