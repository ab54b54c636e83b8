import { z } from 'zod';
import { plainIssues } from '../errors';
import { insertNode, spotAfter, type Spot } from './edit';
import { childLists, findNode, isBlock, withNewIds } from './nodes';
import type { NewId } from './make';
import { Block, SectionSchema, type Section, type Template, type TemplateNode } from './schema';

/** What is copied from a template: whole sections, or blocks; JSON on the clipboard. */
const Clip = z.strictObject({
  format: z.literal('carafe-nodes'),
  version: z.literal(1),
  nodes: z
    .array(z.union([SectionSchema, Block]))
    .min(1)
    .max(200),
});

/** Nodes as they go on the clipboard. Of a column its blocks are taken. */
export function clipOf(...chosen: readonly TemplateNode[]): string {
  const nodes = chosen.flatMap((node) => (node.kind === 'column' ? node.blocks : [node]));
  return JSON.stringify({ format: 'carafe-nodes', version: 1, nodes }, null, 2);
}

export type ReadClip = { ok: true; nodes: (Section | Block)[] } | { ok: false; message: string };

/** Reads what lies on the clipboard; null where it is nothing of a template. */
export function readClip(text: string): ReadClip | null {
  if (!/^\s*\{[^{}]*"carafe-nodes"/.test(text)) return null;
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return { ok: false, message: 'The copied content is incomplete. Copy it again.' };
  }
  const read = Clip.safeParse(document);
  if (read.success) return { ok: true, nodes: read.data.nodes };
  const [issue] = plainIssues(read.error.issues);
  return {
    ok: false,
    message: `What was copied cannot be pasted into a template${issue ? ` (${issue.path})` : ''}. It may come from a newer Carafe.`,
  };
}

/** Where a block comes that is put after a node: behind it, in it where it holds others and is empty. */
export function spotForBlock(template: Template, after: string): Spot | null {
  const node = findNode(template, after)?.node;
  if (!node) return null;
  if (isBlock(node)) {
    const [inside] = childLists(node);
    return inside?.list.length === 0
      ? { parent: node.id, at: inside.slot.at, index: 0 }
      : spotAfter(template, after);
  }
  const column = node.kind === 'section' ? node.columns[0] : node;
  return column ? { parent: column.id, index: column.blocks.length } : null;
}

/** Where a section comes that is put after a node: behind the section that the node is in. */
export function spotForSection(template: Template, after: string): Spot | null {
  const top = findNode(template, after)?.parents[0]?.id ?? after;
  return spotAfter(template, top);
}

/** Whether a section is the foot of a mail: the ways out of it stand there. */
const isFoot = (section: Section): boolean =>
  /links\.unsubscribe|"kind":"foot"/.test(JSON.stringify(section));

/** After what something new comes where nothing is selected: at the end of the mail, above its foot. */
export function placeAtEnd({ sections }: Template): string | undefined {
  const feet = [...sections].reverse().findIndex((section) => !isFoot(section));
  return (feet > 0 ? sections.at(-1 - feet) : sections.at(-1))?.id;
}

/** Puts copies of nodes after a node, in a draft; gives the ids of the copies that found a place. */
export function pasteNodes(
  draft: Template,
  nodes: readonly (Section | Block)[],
  after: string,
  newId: NewId,
): string[] {
  let last = after;
  const pasted: string[] = [];
  for (const node of nodes) {
    const copy = withNewIds<Section | Block>(node, newId);
    const spot = copy.kind === 'section' ? spotForSection(draft, last) : spotForBlock(draft, last);
    if (!spot) continue;
    insertNode(draft, copy, spot);
    if (!findNode(draft, copy.id)) continue;
    pasted.push(copy.id);
    last = copy.id;
  }
  return pasted;
}
