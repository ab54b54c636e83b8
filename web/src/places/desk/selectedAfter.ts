import { findNode, type Stepped, type Template } from '@carafe/core/template';

/** What is selected on the desk. */
interface Selection {
  selected: string | null;
  also: string[];
}

/** What is selected, the first of it as the inspector shows it. */
export const selectionOf = ({ selected, also }: Selection): string[] =>
  selected === null ? [] : [selected, ...also];

const isIn = (template: Template, id: string): boolean =>
  id === 'envelope' || findNode(template, id) !== undefined;

/**
 * What is selected after an edit was taken back or made again: what was when it was made, where that came back, or where
 * what is selected now went; else it stays.
 */
export function selectedAfter(
  now: Selection,
  before: Template,
  { template: after, edit: { selection = [] } }: Stepped,
): Partial<Selection & { editing: null }> {
  const then = selection.filter((id) => isIn(after, id));
  const cameBack = then.some((id) => !isIn(before, id));
  const isGone = now.selected !== null && !isIn(after, now.selected);
  if (!cameBack && !isGone) return { also: now.also.filter((id) => isIn(after, id)) };
  const [first = null, ...more] = then;
  return { selected: first, also: more, editing: null };
}
