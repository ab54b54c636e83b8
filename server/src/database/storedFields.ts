import type { z } from 'zod';

/**
 * Reads stored documents of one kind, field by field: a field that is not there, as in a row of before there was one,
 * or that cannot be read, is as it is at first; a field that there is no longer is dropped.
 */
export function storedFields<S extends z.ZodObject>(
  schema: S,
  first: z.infer<S>,
): (text: string | undefined) => z.infer<S> {
  let last: { text: string; document: z.infer<S> } | null = null;
  return (text) => {
    if (text === undefined) return first;
    if (last?.text === text) return last.document;
    const stored = objectOf(text);
    const document: Record<string, unknown> = {};
    for (const [name, field] of Object.entries(schema.shape)) {
      const read = (field as z.ZodType).safeParse(stored[name]);
      const value = read.success && name in stored ? read.data : (first as never)[name];
      if (value !== undefined) document[name] = value;
    }
    last = { text, document: document as z.infer<S> };
    return last.document;
  };
}

/** A stored object; nothing of one that is damaged. */
function objectOf(text: string): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
  } catch {
    return {};
  }
}
