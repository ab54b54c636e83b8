import { walkNodes, type Template, type TemplateNode } from '@carafe/core/template';

/** A node as the outline lists it. */
export interface Listed {
  node: TemplateNode;
  /** Those around it that are listed, from the outside in. */
  parents: TemplateNode[];
  isElse: boolean;
}

/** A column that is alone in its section, and neither repeats nor hides, says nothing of its own. */
function isLone(node: TemplateNode, section: TemplateNode | undefined): boolean {
  return (
    node.kind === 'column' &&
    section?.kind === 'section' &&
    section.columns.length === 1 &&
    !node.loop &&
    node.when === undefined
  );
}

/** The nodes of a mail as the outline lists them, in reading order. */
export function listedNodes(template: Pick<Template, 'sections'>): Listed[] {
  const all: Listed[] = [];
  walkNodes(template, ({ node, parents, isElse }) => {
    if (isLone(node, parents.at(-1))) return;
    all.push({ node, isElse, parents: parents.filter((p, i) => !isLone(p, parents[i - 1])) });
  });
  return all;
}

/** The nodes that stand in one place with the selected one, else all sections: their ids, in reading order. */
export function besideNodes(
  template: Pick<Template, 'sections'>,
  selected: string | null,
): string[] {
  const all = listedNodes(template);
  const own = all.find(({ node }) => node.id === selected);
  const around = own?.parents.at(-1)?.id;
  const isBeside = ({ parents, isElse }: Listed) =>
    parents.at(-1)?.id === around && isElse === (own?.isElse ?? false);
  return all.filter(isBeside).map(({ node }) => node.id);
}
