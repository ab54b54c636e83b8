import type { Mail } from '@carafe/core/render';
import { z } from 'zod';
import { carried, endpoint } from './endpoint';
import { ApiError } from './errors';

/** What a template that is sent came to when its data changed last. */
export const TemplateHealth = z.object({
  at: z.iso.datetime(),
  people: z.number(),
  /** How many people get another mail than before the change. */
  changed: z.number(),
  /** What the checks call errors. */
  errors: z.array(z.string()),
  /** The error that came up with the change, for which its mails are held; null where they go. */
  held: z.string().nullable(),
  /** What tells the errors apart, in their order: check, node and path, whatever the sentence. */
  places: z.array(z.string()).optional(),
  /** Of the error for which the mails are held. */
  heldPlace: z.string().nullable().optional(),
  /** The checks there were when it was looked at: a check that is new holds nothing. */
  checks: z.array(z.string()).optional(),
});
export type TemplateHealth = z.infer<typeof TemplateHealth>;

export const TemplateSummary = z.object({
  id: z.string(),
  name: z.string(),
  shop: z.string(),
  version: z.number(),
  updated_at: z.string(),
  /** What data it reads: cart, order, catalog … */
  reads: z.array(z.string()),
  health: TemplateHealth.optional(),
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

const Name = z
  .string()
  .trim()
  .min(1, 'A template needs a name.')
  .max(200, 'A name has at most 200 letters.');

export const CreateTemplate = z.union([
  z.strictObject({ template: z.unknown() }),
  z.strictObject({ layout: z.string(), name: Name, shop: z.string() }),
  z.strictObject({ copy_of: z.string(), name: Name }),
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

export const templateEndpoints = {
  listTemplates: endpoint({
    method: 'GET',
    path: '/templates',
    summary: 'All templates, the one changed last first',
    answer: z.object({ templates: z.array(TemplateSummary) }),
  }),
  createTemplate: endpoint({
    method: 'POST',
    path: '/templates',
    summary: 'A new template: from a layout, as a copy, or a document',
    body: CreateTemplate,
    answer: StoredTemplate,
    status: 201,
  }),
  getTemplate: endpoint({
    method: 'GET',
    path: '/templates/:id',
    summary: 'One template',
    answer: StoredTemplate,
  }),
  saveTemplate: endpoint({
    method: 'PUT',
    path: '/templates/:id',
    summary: 'Save what was made from a version; 409 with the current one where that is stale',
    body: SaveTemplate,
    answer: StoredTemplate,
  }),
  letTemplateGo: endpoint({
    method: 'POST',
    path: '/templates/:id/let-go',
    summary: 'Send the emails of a template though an error came up in it',
    answer: null,
  }),
  deleteTemplate: endpoint({
    method: 'DELETE',
    path: '/templates/:id',
    summary: 'Delete a template; it can be restored',
    answer: null,
  }),
  restoreTemplate: endpoint({
    method: 'POST',
    path: '/templates/:id/restore',
    summary: 'Bring a deleted template back',
    answer: StoredTemplate,
  }),
  previewTemplate: endpoint({
    method: 'GET',
    path: '/templates/:id/preview',
    summary:
      'The email as a person would get it, else the first recipient who fits; null where there is none',
    query: z.object({ person: z.coerce.number().int().optional() }),
    answer: carried<Mail | null>('An email: from, subject, preview_text, html, text'),
  }),
  templateSchema: endpoint({
    method: 'GET',
    path: '/schema/template.json',
    summary: 'The JSON Schema of templates',
    answer: z.unknown(),
  }),
};
