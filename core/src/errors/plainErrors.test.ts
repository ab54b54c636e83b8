import { z } from 'zod';
import { plainErrors } from '.';

plainErrors();

const said = (schema: z.ZodType, value: unknown) =>
  schema.safeParse(value).error?.issues.map(({ message }) => message);

it.each([
  [z.object({ a: z.string() }), {}, 'This is missing.'],
  [z.object({ a: z.string() }), { a: 1 }, 'This must be text.'],
  [
    z.array(z.number()).max(2000),
    Array.from({ length: 2001 }, () => 1),
    'At most 2,000 can stand here.',
  ],
  [z.string().min(1), '', 'This must not be empty.'],
  [z.string().max(3), 'abcd', 'This has at most 3 characters.'],
  [z.number().min(5), 1, 'This is at least 5.'],
  [z.enum(['a', 'b', 'c']), 'd', 'This must be a, b or c.'],
  [z.literal('rss'), 'x', 'This must be rss.'],
  [z.strictObject({}), { extra: 1 }, '“extra” is not known here.'],
  [z.union([z.string(), z.number()]), true, 'This is of no kind that is known here.'],
  [
    z.iso.datetime({ offset: true }),
    'now',
    'This must be a time with its offset, such as 2026-03-31T09:00:00Z.',
  ],
  [z.string().regex(/a/, 'A word of its own.'), 'b', 'A word of its own.'],
])('%# is said in a sentence', (schema, value, sentence) => {
  expect(said(schema, value)).toEqual([sentence]);
});
