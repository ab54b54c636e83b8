import { useCallback } from 'react';
import {
  changeNode,
  edit,
  putField,
  type Template,
  type TemplateNode,
} from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { deskActions } from './deskSlice';

/** Ways to change the template; each change is an edit that can be undone by its label. */
export function useEdit() {
  const dispatch = useAppDispatch();
  const change = useCallback(
    (label: string, recipe: (draft: Template) => void, key?: string) => {
      const { template } = store.getState().desk;
      const done = template && edit(template, label, recipe, key);
      if (done) dispatch(deskActions.changed({ edit: done.edit, now: Date.now() }));
    },
    [dispatch],
  );
  /** Changes one node. Edits with the same label follow each other as one. */
  const changeById = useCallback(
    <N extends TemplateNode>(id: string, label: string, recipe: (node: N) => void) =>
      change(
        label,
        (draft) => changeNode(draft, id, (node) => recipe(node as N)),
        `${id} ${label}`,
      ),
    [change],
  );
  /** Puts a value at a path of a node, or of the template for null, and others with it; undefined takes it away. */
  const put = useCallback(
    (
      id: string | null,
      label: string,
      path: string,
      value: unknown,
      also: Readonly<Record<string, unknown>> = {},
    ) =>
      change(
        label,
        (draft) => {
          putField(draft, id, path, value);
          for (const [other, given] of Object.entries(also)) putField(draft, id, other, given);
        },
        `${id ?? ''} ${path}`,
      ),
    [change],
  );
  const select = useCallback((id: string | null) => dispatch(deskActions.selected(id)), [dispatch]);
  return { change, changeById, put, select };
}
