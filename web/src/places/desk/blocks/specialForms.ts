import type { ComponentType } from 'react';
import type { TemplateNode } from '@carafe/core/template';

/** An editor beside what is made from a kind's fields: `<kind>.tsx` in this folder exports `Form`. */
export type SpecialForm = ComponentType<{ node: TemplateNode }>;

const files = import.meta.glob<{ Form: SpecialForm }>('./*.tsx', { eager: true });

/** The special editor of a kind of node, where it has one. */
export function specialFormOf(kind: string): SpecialForm | undefined {
  return files[`./${kind}.tsx`]?.Form;
}
