import { parsedFormula, parsedRunning, type Node, type Parsed, type Use } from '../formula';
import type { Loop } from '../template/parts';

/** A formula of a site, with the offset at which it begins in the site's source. */
export interface SiteFormula {
  node: Node;
  /** Its own text. */
  source: string;
}

/**
 * A place that holds a formula or running text, in whatever document: what is checked, what tells
 * which data is read, and what a repair or a renaming changes.
 */
export interface FormulaSite {
  /** The kind of document that it belongs to. */
  owner: 'template';
  /** The id of the node that it belongs to; empty for the document itself. */
  node: string;
  /** The property, as a path from the node: `items.where`, `rows.2.amount`. */
  path: string;
  /** Running text with tags, or one formula. */
  form: 'running' | 'formula';
  use: Use;
  source: string;
  /** The formulas that it holds, or why they cannot be read. */
  parsed: Parsed<readonly SiteFormula[]>;
  /** The conditions that hold where it stands: its node's own and those around. */
  guards: readonly string[];
  /** The loops that it stands in, from the outside in. */
  loops: readonly Loop[];
  /** The loop whose list it is. */
  loop?: Loop;
}

/** The formulas of a source; each is parsed once, however often it is asked for. */
export function formulasOf(form: FormulaSite['form'], source: string): FormulaSite['parsed'] {
  if (form === 'formula') {
    const parsed = parsedFormula(source);
    return parsed.ok ? { ok: true, value: [{ node: parsed.value, source }] } : parsed;
  }
  const parsed = parsedRunning(source);
  if (!parsed.ok) return parsed;
  return {
    ok: true,
    value: parsed.value.flatMap((s) =>
      s.type === 'tag' ? [{ node: s.node, source: s.source }] : [],
    ),
  };
}

/** Calls `visit` for every formula that can be read. */
export function walkFormulas(
  sites: readonly FormulaSite[],
  visit: (formula: Node, site: FormulaSite) => void,
): void {
  for (const site of sites)
    if (site.parsed.ok) for (const { node } of site.parsed.value) visit(node, site);
}
