import type { z } from 'zod';
import type { Writer } from '../build/writer';
import type { Loop } from '../template/parts';

/** Told of every formula and running text that a block holds. */
export interface SlotVisitor {
  running(path: string, source: string | undefined, inside?: Loop): void;
  formula(
    path: string,
    source: string | undefined,
    use: 'tag' | 'condition' | 'value',
    inside?: Loop,
  ): void;
}

/** All that the core knows of one kind of block. To add a kind, write one and list it in index.ts. */
export interface BlockDefinition<K extends string, S extends z.ZodType<{ kind: K }>> {
  kind: K;
  /** Its name in the interface, and one sentence. */
  name: string;
  says: string;
  schema: S;
  /** The block as it is when it is added. */
  make(id: string): z.infer<S>;
  slots(block: z.infer<S>, visit: SlotVisitor): void;
  /** MJML for inside a column, with marks where it fills itself. */
  mjml(block: z.infer<S>, writer: Writer): string;
  /** Its part of the plain text, with marks. */
  text(block: z.infer<S>, writer: Writer): string;
}

/** Keeps the types of a definition. */
export function defineBlock<K extends string, S extends z.ZodType<{ kind: K }>>(
  definition: BlockDefinition<K, S>,
): BlockDefinition<K, S> {
  return definition;
}
