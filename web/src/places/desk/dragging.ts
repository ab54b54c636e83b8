import {
  canDrop,
  chosenNodes,
  dropNodes,
  findNode,
  insertNode,
  isTiedToShop,
  newSpot,
  type Template,
} from '@carafe/core/template';
import type { Shape } from '@carafe/core/shape';
import { store } from '../../app/store';
import { counted } from '@carafe/core/words';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { isSectionKind, madeNode, type AddableKind } from './madeNode';
import type { useDesk } from './useDesk';
import type { useEdit } from './useEdit';

/** What is being dragged: nodes of the mail, or a kind of block that is to be added. */
type Dragged = { nodes: string[] } | { kind: AddableKind };
export type Side = 'before' | 'after';

// The browser tells what is dragged only when it falls.
let dragged: Dragged | null = null;

function begin(what: Dragged, data: DataTransfer): void {
  dragged = what;
  data.effectAllowed = 'nodes' in what ? 'move' : 'copy';
  data.setData('text/plain', 'nodes' in what ? what.nodes.join(' ') : what.kind);
}

/** A node is taken up; what is selected with it comes along. */
export function beginDrag(node: string, data: DataTransfer): void {
  const { template, selected, also } = store.getState().desk;
  const together = selected === null ? [] : [...also, selected];
  const nodes =
    template && also.length > 0 && together.includes(node)
      ? chosenNodes(template, together).map(({ id }) => id)
      : [node];
  begin({ nodes }, data);
}

/** A kind of block is taken up that is to be added. */
export const beginAdding = (kind: AddableKind, data: DataTransfer): void => begin({ kind }, data);

export function endDrag(): void {
  dragged = null;
}

const spotOfNew = (template: Template, kind: AddableKind, target: string, side: Side) =>
  newSpot(template, isSectionKind(kind) ? 'section' : 'block', target, side);

/** Whether what is dragged can fall on a half of a node. */
export function canFall(target: string, side: Side): boolean {
  const { template } = store.getState().desk;
  if (template === null || dragged === null) return false;
  return 'nodes' in dragged
    ? canDrop(template, dragged.nodes, target, side)
    : spotOfNew(template, dragged.kind, target, side) !== null;
}

/** Lets what is dragged fall on a half of a node; it is selected then. */
export function fall(
  target: string,
  side: Side,
  { change, select }: ReturnType<typeof useEdit>,
  { shape, whenShaped }: Pick<ReturnType<typeof useDesk>, 'shape' | 'whenShaped'>,
): void {
  const what = dragged;
  endDrag();
  if (!what) return;
  const done = (id: string) => {
    select(id);
    const { template } = store.getState().desk;
    const node = template && findNode(template, id)?.node;
    if (node) store.dispatch(deskActions.said(`Added: ${labelOf(node)}.`));
  };
  if ('nodes' in what) {
    const { nodes } = what;
    change('Move', (draft) => dropNodes(draft, nodes, target, side));
    store.dispatch(deskActions.stretched(nodes));
    const { template } = store.getState().desk;
    const only = template && nodes.length === 1 && findNode(template, nodes[0] ?? '')?.node;
    store.dispatch(
      deskActions.said(`Moved: ${only ? labelOf(only) : counted(nodes.length, 'part')}.`),
    );
    return;
  }
  const add = (known: Shape) => {
    const { template } = store.getState().desk;
    const node = madeNode(what.kind, known, { template, after: target });
    change(`Add ${labelOf(node)}`, (draft) => {
      const spot = spotOfNew(draft, what.kind, target, side);
      if (spot) insertNode(draft, node, spot);
    });
    done(node.id);
  };
  if (isSectionKind(what.kind) || !isTiedToShop(what.kind)) add(shape);
  else whenShaped(add);
}
