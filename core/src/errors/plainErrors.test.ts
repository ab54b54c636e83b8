import { z } from 'zod';
import { plainErrors, plainIssues } from '.';

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
  [z.strictObject({}), { one: 1, two: 2 }, '“one”, “two” are not known here.'],
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

describe('something that may be of several kinds', () => {
  const step = z.union([
    z.strictObject({ kind: z.literal('wait'), hours: z.number().min(1) }),
    z.strictObject({ kind: z.literal('send'), mode: z.enum(['on', 'held']) }),
  ]);
  const row = z.object({ steps: z.array(z.union([step, z.string()])) });
  const at = (schema: z.ZodType, value: unknown) =>
    plainIssues(schema.safeParse(value).error?.issues ?? []);

  it.each([
    [{ kind: 'wait', hours: 0 }, 'steps.0.hours', 'This is at least 1.'],
    [{ kind: 'send', mode: 'off' }, 'steps.0.mode', 'This must be on or held.'],
    [{ kind: 'send' }, 'steps.0.mode', 'This must be on or held.'],
    [{ kind: 'fly' }, 'steps.0', 'This is of no kind that is known here.'],
    [7, 'steps.0', 'This is of no kind that is known here.'],
    [undefined, 'steps.0', 'This is of no kind that is known here.'],
  ])('%# tells what is wrong with the kind that it is of', (value, path, message) => {
    expect(at(row, { steps: [value] })).toEqual([{ path, message }]);
  });
});
