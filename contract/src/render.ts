import type { Skeletons } from '@carafe/core/build';
import type { Trail } from '@carafe/core/render';
import { z } from 'zod';
import { carried, endpoint } from './endpoint';

export const MAX_RECORDS = 1000;
export const RenderRequest = z.strictObject({
  template: z.unknown().optional(),
  template_id: z.string().optional(),
  records: z
    .array(z.record(z.string(), z.unknown()))
    .max(MAX_RECORDS, `At most ${MAX_RECORDS} records can be filled at once.`),
  locale: z.string().max(35).optional(),
  as_of: z.iso.datetime({ offset: true }).or(z.iso.date()).optional(),
  trail: z.boolean().optional(),
});
export type RenderRequest = z.infer<typeof RenderRequest>;

export const RenderedMail = z.object({
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
});
export type RenderAnswer = z.infer<typeof RenderAnswer>;

export const renderEndpoints = {
  render: endpoint({
    method: 'POST',
    path: '/render',
    summary: `Fill a template for up to ${MAX_RECORDS} records`,
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
