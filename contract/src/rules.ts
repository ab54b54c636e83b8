import { Rule } from '@carafe/core/recommend';
import { z } from 'zod';
import { endpoint } from './endpoint';

const StoredRule = z.object({ id: z.string(), rule: Rule });
export type StoredRule = z.infer<typeof StoredRule>;

const OfProduct = { sku: z.string(), name: z.string(), step: z.number() };
export const PicksOfPerson = z.object({
  /** In order, each with the step that chose it (from 0), on what figure, and the reason in plain words. */
  picks: z.array(z.object({ ...OfProduct, figure: z.string(), reason: z.string() })),
  /** What would have stood among them, and why it does not. */
  passed: z.array(z.object({ ...OfProduct, why: z.string() })),
});
export type PicksOfPerson = z.infer<typeof PicksOfPerson>;

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
    summary: 'Change a recommendation rule',
    body: Rule,
    answer: StoredRule,
  }),
  deleteRule: endpoint({
    method: 'DELETE',
    path: '/rules/:id',
    summary: 'Delete a recommendation rule',
    answer: null,
  }),
  picks: endpoint({
    method: 'GET',
    path: '/shops/:shop/picks/:rule/:person',
    summary:
      'What a rule picks for a person, by address; of somebody unknown, what it picks for anybody',
    answer: PicksOfPerson,
  }),
};
