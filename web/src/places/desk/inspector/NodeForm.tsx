import { useCallback } from 'react';
import { itemsOf, kindOf, type TemplateNode } from '@carafe/core/template';
import { ScopeProvider } from '../../../parts/words/scope';
import { specialFormOf } from '../blocks/specialForms';
import { useEdit } from '../useEdit';
import { useLoopScope, useNodeScope } from '../useNodeScope';
import { FieldsForm } from './FieldsForm';
import type { Put } from './put';

/** One part of a node's fields: what it says, or how it looks. */
export function NodeForm({ node, part }: { node: TemplateNode; part: 'content' | 'looks' }) {
  const { put } = useEdit();
  const { inner, outerLoops } = useNodeScope(node.id);
  const items = itemsOf(node);
  const inList = useLoopScope([
    ...outerLoops,
    ...(node.loop ? [node.loop] : []),
    ...(items ? [items] : []),
  ]);
  const fields = kindOf(node).fields.filter((field) => (field.part ?? 'content') === part);
  const { id } = node;
  const onPut = useCallback<Put>(
    (path, value, label, also) => put(id, label, path, value, also),
    [put, id],
  );
  const Special = part === 'content' ? specialFormOf(node.kind) : undefined;
  return (
    <ScopeProvider value={inner}>
      <FieldsForm
        owner={node}
        fields={fields}
        inList={inList}
        as={items?.as ?? 'it'}
        onPut={onPut}
      />
      {Special && <Special node={node} />}
    </ScopeProvider>
  );
}

/** Whether a node has anything to fill in on a part. */
export function hasPart(node: TemplateNode, part: 'content' | 'looks'): boolean {
  return kindOf(node).fields.some((field) => (field.part ?? 'content') === part);
}
