import { Rule, type Figures, type TrialResult } from '@carafe/core/recommend';
import { z } from 'zod';
import { carried, endpoint, OfVersion } from './endpoint';

const UsedBy = z.array(z.object({ id: z.string(), name: z.string() }));
const StoredRule = z.object({
  id: z.string(),
  version: z.string(),
  /** The draft. */
  rule: Rule,
  /** What emails use. */
  published: Rule,
  /** Templates that show its picks. */
  used_by: UsedBy,
});
export type StoredRule = z.infer<typeof StoredRule>;
const CopiedRule = z.object({
  rule: StoredRule,
  /** What the other shop lacks, in sentences: products, a segment. */
  lacks: z.array(z.string()),
});

const OfProduct = { sku: z.string(), name: z.string(), step: z.number() };
export const PicksOfPerson = z.object({
  /** As of when it counts what people did. */
  as_of: z.iso.datetime(),
  /** In order, each with the step that chose it (from 0), on what figure, and the reason in plain words. */
  picks: z.array(
    z.object({
      ...OfProduct,
      figure: z.string(),
      reason: z.string(),
      /** The product as its catalog has it. */
      product: z.record(z.string(), z.unknown()),
    }),
  ),
  /** What would have stood among them, and why it does not. */
  passed: z.array(z.object({ ...OfProduct, why: z.string() })),
  /** How much each step can draw from. */
  sieve: z.object({
    products: z.number(),
    pool: z.number(),
    steps: z.array(z.object({ offered: z.number(), through: z.number(), room: z.number() })),
  }),
});
export type PicksOfPerson = z.infer<typeof PicksOfPerson>;

const RuleFigures = z.object({
  figures: carried<Figures>('What the rule comes to for these people; figures of several add up'),
  /** How many people there are in all. */
  people: z.number(),
  /** Where to go on; null at the end. */
  next: z.number().nullable(),
  /** At the beginning: all products that the rule may pick. */
  pool: z.array(z.object({ sku: z.string(), name: z.string(), category: z.string() })).optional(),
});
export type RuleFigures = z.infer<typeof RuleFigures>;

const TrialAnswer = z.object({
  /** People whose latest order was hidden. */
  of: z.number(),
  /** What of the rule was left out, since the past does not tell it. */
  left_out: z.array(z.string()),
  result: carried<TrialResult>('What each rule did, beside plain best sellers and chance'),
  /** Where weights were looked for: those that did best on the earlier part of the past. */
  weights: z.array(z.number()).optional(),
});
export type TrialAnswer = z.infer<typeof TrialAnswer>;

export const ruleEndpoints = {
  listRules: endpoint({
    method: 'GET',
    path: '/shops/:shop/rules',
    summary: 'The recommendation rules of a shop',
    answer: z.object({ rules: z.array(StoredRule) }),
  }),
  addRule: endpoint({
    method: 'POST',
    path: '/shops/:shop/rules',
    summary: 'A recommendation rule',
    body: Rule,
    answer: StoredRule,
    status: 201,
  }),
  changeRule: endpoint({
    method: 'PUT',
    path: '/rules/:id',
    summary: 'Change the draft of a recommendation rule; its names apply at once',
    query: OfVersion,
    body: Rule,
    answer: StoredRule,
  }),
  publishRule: endpoint({
    method: 'POST',
    path: '/rules/:id/publish',
    summary: 'Let emails use the draft of a recommendation rule',
    query: OfVersion,
    answer: StoredRule,
  }),
  copyRule: endpoint({
    method: 'POST',
    path: '/rules/:id/copy',
    summary: 'Copy a recommendation rule to a shop',
    body: z.strictObject({ shop: z.string() }),
    answer: CopiedRule,
    status: 201,
  }),
  deleteRule: endpoint({
    method: 'DELETE',
    path: '/rules/:id',
    summary: 'Delete a recommendation rule',
    answer: null,
  }),
  ruleFigures: endpoint({
    method: 'GET',
    path: '/rules/:id/figures',
    summary: 'What a rule comes to over the people of its shop, some at a time',
    query: z.object({ after: z.coerce.number().int().min(0).default(0) }),
    answer: RuleFigures,
  }),
  tryRule: endpoint({
    method: 'POST',
    path: '/rules/:id/trial',
    summary: 'Try a rule on the past, beside another if wanted; closing the request stops it',
    body: z.strictObject({
      against: z.string().optional(),
      /** Weights of a mix are looked for on the earlier part of the past, and judged on the later. */
      tune: z.boolean().optional(),
    }),
    answer: TrialAnswer,
  }),
  picksOf: endpoint({
    method: 'GET',
    path: '/picks/:rule/:person',
    summary: 'The same for a rule of any shop; `shop` where several have one of this name',
    query: z.object({ shop: z.string().optional() }),
    answer: PicksOfPerson,
  }),
  picks: endpoint({
    method: 'GET',
    path: '/shops/:shop/picks/:rule/:person',
    summary:
      'What a rule picks for a person, by address; of somebody unknown, what it picks for anybody',
    query: z.object({ version: z.enum(['published', 'draft']).default('published') }),
    answer: PicksOfPerson,
  }),
};
