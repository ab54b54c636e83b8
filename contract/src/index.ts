import { z } from 'zod';

/** What went wrong, in a sentence for a person, with the places where there are some. */
export const ApiError = z.object({
  error: z.object({
    message: z.string(),
    problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  }),
});
export type ApiError = z.infer<typeof ApiError>;

export const TemplateSummary = z.object({
  id: z.string(),
  name: z.string(),
  shop: z.string(),
  version: z.number(),
  updated_at: z.string(),
  /** What data it reads: cart, order, catalog … */
  reads: z.array(z.string()),
});
export type TemplateSummary = z.infer<typeof TemplateSummary>;

/** A template as it is stored. Its document is read by core's readTemplate. */
export const StoredTemplate = z.object({
  id: z.string(),
  version: z.number(),
  updated_at: z.string(),
  template: z.unknown(),
});
export type StoredTemplate = z.infer<typeof StoredTemplate>;

export const CreateTemplate = z.union([
  z.strictObject({ template: z.unknown() }),
  z.strictObject({
    layout: z.string(),
    name: z.string().trim().min(1).max(200),
    shop: z.string(),
  }),
  z.strictObject({ copy_of: z.string(), name: z.string().trim().min(1).max(200) }),
]);
export type CreateTemplate = z.infer<typeof CreateTemplate>;

/** A save names the version that it was made from; another one in between gives 409. */
export const SaveTemplate = z.strictObject({
  version: z.number().int(),
  template: z.unknown(),
});

/** The answer to a stale save: what is stored now. Nothing was changed. */
export const Conflict = ApiError.extend({ current: StoredTemplate });
export type Conflict = z.infer<typeof Conflict>;

export const MAX_RECORDS = 1000;
export const RenderRequest = z.strictObject({
  template: z.unknown().optional(),
  template_id: z.string().optional(),
  records: z.array(z.record(z.string(), z.unknown())).max(MAX_RECORDS),
  locale: z.string().max(35).optional(),
  as_of: z.iso.datetime({ offset: true }).or(z.iso.date()).optional(),
  trail: z.boolean().optional(),
});
export type RenderRequest = z.infer<typeof RenderRequest>;

/** A shop that mails speak for. */
export const Shop = z.strictObject({
  id: z
    .string()
    .max(100)
    .regex(/^[a-z0-9][a-z0-9-]*$/, 'is lower-case letters, digits and dashes'),
  name: z.string().trim().min(1).max(200),
  url: z.url({ protocol: /^https?$/ }).max(2000),
  address: z.string().max(500),
  logo: z.string().max(2000),
  currency: z.string().regex(/^[A-Z]{3}$/, 'is three capital letters, such as EUR'),
  timezone: z.string().max(60),
  locale: z.string().max(35),
});
export type Shop = z.infer<typeof Shop>;

/** A recipient as the who-bar lists them. */
export const Recipient = z.object({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  lines: z.number(),
  orders: z.number(),
});
export type Recipient = z.infer<typeof Recipient>;

export const RecipientList = z.object({ total: z.number(), recipients: z.array(Recipient) });
export type RecipientList = z.infer<typeof RecipientList>;

/** Whom to list: everyone, or those who have what a template reads. */
export const Having = z.enum(['all', 'cart', 'order']);
export type Having = z.infer<typeof Having>;

/** Where the demo's pictures are said to be; the server serves them at /pictures. */
export const STAND_IN_PICTURES = 'https://pictures.quillmoss.example/';

export * from './sources';
