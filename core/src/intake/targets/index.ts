import { carts } from './carts';
import { catalog } from './catalog';
import { coupons } from './coupons';
import type { TargetDefinition } from './define';
import { events } from './events';
import { feed } from './feed';
import { notes } from './notes';
import { orders } from './orders';
import { people } from './people';

/** Every kind of data that a source can feed, in the order in which they are offered. */
const DEFINITIONS = { catalog, people, carts, orders, events, feed, coupons, notes };

export type TargetId = keyof typeof DEFINITIONS;
export const TARGETS = Object.keys(DEFINITIONS) as TargetId[];

/** A kind of data with its id. */
export interface Target extends TargetDefinition {
  id: TargetId;
}

const BY_ID = Object.fromEntries(TARGETS.map((id) => [id, { id, ...DEFINITIONS[id] }])) as Record<
  TargetId,
  Target
>;

export function targetOf(id: TargetId): Target {
  return BY_ID[id];
}

export type { TargetField } from './define';
