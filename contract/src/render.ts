import type { Skeletons } from '@carafe/core/build';
import type { Trail } from '@carafe/core/render';
import { z } from 'zod';
import { carried, endpoint } from './endpoint';

export const MAX_RECORDS = 1000;
export const RenderRequest = z.strictObject({
  template: z.unknown().optional(),
  template_id: z.string().optional(),
  /** Of a stored template: as it is published, unless the draft or a published version is asked for. */
  version: z.union([z.enum(['published', 'draft']), z.number().int().min(1)]).optional(),
  records: z
    .array(z.record(z.string(), z.unknown()))
    .max(MAX_RECORDS, `At most ${MAX_RECORDS} records can be filled at once.`),
  locale: z.string().max(35).optional(),
  as_of: z.iso.datetime({ offset: true }).or(z.iso.date()).optional(),
  trail: z.boolean().optional(),
});
export type RenderRequest = z.infer<typeof RenderRequest>;

const BlankPart = z.object({ node: z.string(), path: z.string(), message: z.string() });

export const RenderedMail = z.object({
  /** Whether everything was filled; some parts came out blank; or it must not be sent. */
  state: z.enum(['whole', 'blank_parts', 'broken']),
  /** What came out blank, or what the record lacks. */
  blanks: z.array(BlankPart),
  from: z.object({ name: z.string(), address: z.string() }),
  /** The address that it is for; null where the record has none. */
  to: z.string().nullable(),
  to_name: z.string().optional(),
  subject: z.string(),
  preview_text: z.string(),
  html: z.string(),
  text: z.string(),
  headers: z.record(z.string(), z.string()),
  /** This recipient is not to get it: the template says whom it is for. */
  held: z.literal(true).optional(),
  /** It runs into a bound of a mail and is not whole: where, and why. Carafe does not send such a mail. */
  cut: z.object({ node: z.string(), path: z.string(), message: z.string() }).optional(),
  trail: carried<Trail>('Why each node is as it is').optional(),
});
export const BuildFinding = z.object({
  severity: z.enum(['error', 'warning']),
  node: z.string(),
  path: z.string(),
  column: z.number().optional(),
  message: z.string(),
});
export const RenderAnswer = z.object({
  mails: z.array(RenderedMail),
  findings: z.array(BuildFinding),
  /** The published version that was filled; null for a draft, or a template that was sent along. */
  template_version: z.number().nullable(),
});
export type RenderAnswer = z.infer<typeof RenderAnswer>;

export const renderEndpoints = {
  render: endpoint({
    method: 'POST',
    path: '/render',
    summary: `Fill a template for up to ${MAX_RECORDS} records: 200 where every email is sound, 207 where some are broken, 422 where all are or a formula cannot be read`,
    body: RenderRequest,
    answer: RenderAnswer,
  }),
  skeletons: endpoint({
    method: 'POST',
    path: '/skeletons',
    summary: 'The HTML of a template without its words, for a browser to build it',
    body: z.strictObject({ template: z.unknown() }),
    answer: carried<Skeletons>('Each section, and the document round them'),
  }),
};
