import { z } from 'zod';
import { endpoint } from './endpoint';

/** How long something that was deleted can be restored. */
export const RESTORABLE_DAYS = 30;

export const DeletedKind = z.enum([
  ...(['template', 'occasion', 'picture', 'note'] as const),
  ...(['formula', 'rule', 'segment'] as const),
]);
export type DeletedKind = z.infer<typeof DeletedKind>;

const DeletedItem = z.object({
  kind: DeletedKind,
  /** Of a template or an occasion its own; of anything else that of its deletion. */
  id: z.string(),
  name: z.string(),
  /** Null for what all shops share. */
  shop: z.string().nullable(),
  deleted_at: z.iso.datetime(),
  /** Until when it can be restored. */
  until: z.iso.datetime(),
});
export type DeletedItem = z.infer<typeof DeletedItem>;

export const deletedEndpoints = {
  listDeleted: endpoint({
    method: 'GET',
    path: '/deleted',
    summary: `What was deleted in the last ${RESTORABLE_DAYS} days, the latest first`,
    answer: z.object({ deleted: z.array(DeletedItem) }),
  }),
  restoreDeleted: endpoint({
    method: 'POST',
    path: '/deleted/:kind/:id/restore',
    summary: 'Restore something that was deleted, as it was; an occasion comes back switched off',
    answer: z.object({ kind: DeletedKind, name: z.string() }),
  }),
};
