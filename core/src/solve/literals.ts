import { parsedFormula, parsedRunning, walk, type Node } from '../formula';

/** The formulas of a text: one, or those between braces. */
export function nodesOf(source: string): Node[] {
  if (source.includes('{{')) {
    const parsed = parsedRunning(source);
    return parsed.ok ? parsed.value.flatMap((one) => (one.type === 'tag' ? [one.node] : [])) : [];
  }
  const parsed = parsedFormula(source);
  return parsed.ok ? [parsed.value] : [];
}

/** What formulas compare with: the numbers and texts that stand in them, each once. */
export function literalsOf(sources: readonly string[]): { numbers: number[]; texts: string[] } {
  const numbers = new Set<number>();
  const texts = new Set<string>();
  for (const source of sources)
    for (const root of nodesOf(source))
      walk(root, (node) => {
        if (node.type === 'number') numbers.add(node.value);
        if (node.type === 'text') texts.add(node.value);
      });
  return { numbers: [...numbers], texts: [...texts] };
}
