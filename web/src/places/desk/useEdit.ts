import { useCallback } from 'react';
import { changeNode, type Template, type TemplateNode } from '@carafe/core/template';
import { useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';

/** Ways to change the template; each change can be undone by what it says. */
export function useEdit() {
  const dispatch = useAppDispatch();
  const change = useCallback(
    (says: string, recipe: (draft: Template) => void, key?: string) =>
      dispatch(
        deskActions.changed({ says, recipe, now: Date.now(), ...(key !== undefined && { key }) }),
      ),
    [dispatch],
  );
  /** Changes one node. Edits with the same name follow each other as one. */
  const changeById = useCallback(
    <N extends TemplateNode>(id: string, says: string, recipe: (node: N) => void) =>
      change(says, (draft) => changeNode(draft, id, (node) => recipe(node as N)), `${id} ${says}`),
    [change],
  );
  const select = useCallback((id: string | null) => dispatch(deskActions.selected(id)), [dispatch]);
  return { change, changeById, select };
}
