import { useMemo } from 'react';
import { findNode, type Loop, type TemplateNode } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { scopeAt, type Scope } from '../../parts/words/scope';
import { useDesk } from './useDesk';

/** The loops around a node, from the outside in, without its own. */
export function loopsAround(parents: readonly TemplateNode[]): Loop[] {
  return parents.flatMap((parent) => (parent.loop ? [parent.loop] : []));
}

/** What can be named inside given loops, for the recipient shown. */
export function useLoopScope(loops: readonly Loop[]): Scope {
  const { shape, record, asOf } = useDesk();
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const key = JSON.stringify(loops);
  return useMemo(
    () => scopeAt(shape, record, asOf, JSON.parse(key) as Loop[], shop),
    [shape, record, asOf, key, shop],
  );
}

const NONE: Loop[] = [];

/** What can be named around a node (for its condition and list), and inside its own loop. */
export function useNodeScope(id: string | null): {
  outer: Scope;
  inner: Scope;
  outerLoops: Loop[];
} {
  const template = useAppSelector((s) => s.desk.template);
  const place = id && template ? findNode(template, id) : undefined;
  const outerLoops = place ? loopsAround(place.parents) : NONE;
  const own = place?.node.loop;
  const outer = useLoopScope(outerLoops);
  const inner = useLoopScope(own ? [...outerLoops, own] : outerLoops);
  return { outer, inner, outerLoops };
}
