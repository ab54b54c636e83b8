import { parsedRunning } from '../formula';
import { changeSite, templateSites } from '../site';
import { edit } from '../template/edit';
import { walkNodes } from '../template/nodes';
import type { Template } from '../template/schema';
import { byName, expandFormula, OWN, type NamedFormula } from './named';
import type { ProductNote } from './notes';

/** What a shop keeps for its templates. */
export interface ShopLibrary {
  formulas: readonly NamedFormula[];
  notes: readonly ProductNote[];
}
export const EMPTY_LIBRARY: ShopLibrary = { formulas: [], notes: [] };

/** Running text with each of its formulas expanded. */
function expandRunning(source: string, formulas: ReadonlyMap<string, string>): string {
  const parsed = parsedRunning(source);
  if (!parsed.ok) return source;
  return parsed.value
    .map((segment) =>
      segment.type === 'words' ? segment.text : `{{ ${expandFormula(segment.source, formulas)} }}`,
    )
    .join('');
}

/** A template that stands alone: named formulas in their places, notes in their slots. */
export function expand(template: Template, library: ShopLibrary): Template {
  const formulas = byName(library.formulas);
  const named =
    formulas.size === 0
      ? []
      : templateSites(template).filter(
          ({ source, parsed }) => parsed.ok && source.includes(`${OWN}.`),
        );
  const slots: { node: string; place: ProductNote['place'] }[] = [];
  walkNodes(template, ({ node }) => {
    if (node.kind === 'notes') slots.push({ node: node.id, place: node.place });
    if (node.kind === 'lines' && node.notes) slots.push({ node: node.id, place: 'line' });
  });
  if (named.length === 0 && slots.length === 0) return template;
  const expanded = edit(template, 'Expand', (draft) => {
    for (const site of named)
      changeSite(draft, site, (source) =>
        site.form === 'formula' ? expandFormula(source, formulas) : expandRunning(source, formulas),
      );
    walkNodes(draft, ({ node }) => {
      const slot = slots.find((one) => one.node === node.id);
      if (slot && (node.kind === 'notes' || node.kind === 'lines'))
        node.shown = library.notes
          .filter(({ place }) => place === slot.place)
          .map((note) => noteExpanded(note, formulas));
    });
  });
  return expanded?.template ?? template;
}

function noteExpanded(note: ProductNote, formulas: ReadonlyMap<string, string>): ProductNote {
  if (formulas.size === 0) return structuredClone(note);
  const copy = structuredClone(note);
  const visit = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    const { type, attrs } = value as { type?: unknown; attrs?: { formula?: string } };
    if (type === 'tag' && attrs?.formula !== undefined)
      attrs.formula = expandFormula(attrs.formula, formulas);
    for (const inside of Object.values(value)) visit(inside);
  };
  visit(copy.text);
  return copy;
}
