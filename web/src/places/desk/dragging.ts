import {
  dropNode,
  dropSpot,
  findNode,
  insertNode,
  isTiedToShop,
  newSpot,
  type Template,
} from '@carafe/core/template';
import type { Shape } from '@carafe/core/shape';
import { store } from '../../app/store';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { isSectionKind, madeNode, type AddableKind } from './madeNode';
import type { useDesk } from './useDesk';
import type { useEdit } from './useEdit';

/** What is being dragged: a node of the mail, or a kind of block that is to be added. */
type Dragged = { node: string } | { kind: AddableKind };
export type Side = 'before' | 'after';

// The browser tells what is dragged only when it falls.
let dragged: Dragged | null = null;

export function beginDrag(what: Dragged, data: DataTransfer): void {
  dragged = what;
  data.effectAllowed = 'node' in what ? 'move' : 'copy';
  data.setData('text/plain', 'node' in what ? what.node : what.kind);
}

export function endDrag(): void {
  dragged = null;
}

function spotOn(template: Template, what: Dragged, target: string, side: Side) {
  if ('node' in what) return dropSpot(template, what.node, target, side);
  return newSpot(template, isSectionKind(what.kind) ? 'section' : 'block', target, side);
}

/** Whether what is dragged can fall on a half of a node. */
export function canFall(target: string, side: Side): boolean {
  const { template } = store.getState().desk;
  return template !== null && dragged !== null && spotOn(template, dragged, target, side) !== null;
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
    if (node)
      store.dispatch(deskActions.said(`${'node' in what ? 'Moved' : 'Added'}: ${labelOf(node)}.`));
  };
  if ('node' in what) {
    change('Move', (draft) => dropNode(draft, what.node, target, side));
    done(what.node);
    return;
  }
  const add = (known: Shape) => {
    const node = madeNode(what.kind, known);
    change(`Add ${labelOf(node)}`, (draft) => {
      const spot = spotOn(draft, what, target, side);
      if (spot) insertNode(draft, node, spot);
    });
    done(node.id);
  };
  if (isSectionKind(what.kind) || !isTiedToShop(what.kind)) add(shape);
  else whenShaped(add);
}
