import type { z } from 'zod';

interface Read<T> {
  document: T;
  /** Fields that are stored, and could not be read. */
  lost: string[];
}

/**
 * Reads stored documents of one kind, field by field: a field that is not there, as in a row of before there was one,
 * or that cannot be read, is as it is at first; a field that there is no longer is dropped.
 */
export function storedFields<S extends z.ZodObject>(schema: S, first: z.infer<S>) {
  let last: ({ text: string } & Read<z.infer<S>>) | null = null;
  const look = (text: string): Read<z.infer<S>> => {
    if (last?.text === text) return last;
    const stored = objectOf(text);
    const document: Record<string, unknown> = {};
    const lost: string[] = [];
    for (const [name, field] of Object.entries(schema.shape)) {
      const isStored = stored !== null && name in stored;
      const read = isStored ? (field as z.ZodType).safeParse(stored[name]) : null;
      if (stored === null || read?.success === false) lost.push(name);
      const value = read?.success ? read.data : (first as never)[name];
      if (value !== undefined) document[name] = value;
    }
    last = { text, document: document as z.infer<S>, lost };
    return last;
  };
  return {
    read: (text: string | undefined): z.infer<S> =>
      text === undefined ? first : look(text).document,
    /** The fields that are stored and could not be read, so that they are as they are at first. */
    lost: (text: string | undefined): readonly string[] =>
      text === undefined ? [] : look(text).lost,
  };
}

/** A stored object; null where it is damaged. */
function objectOf(text: string): Record<string, unknown> | null {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}
