import type { FormErrors } from '@mantine/form';
import type { z } from 'zod';

/** Validates a form by the schema that the server asks of it, so that both say the same. */
export function zodValidate<S extends z.ZodType>(schema: S) {
  return (values: unknown): FormErrors => {
    const read = schema.safeParse(values);
    if (read.success) return {};
    const errors: FormErrors = {};
    for (const { path, message } of read.error.issues) errors[path.join('.')] ??= message;
    return errors;
  };
}
