import { planOf, type Plan, type World } from '@carafe/core/occasion';
import type { OccasionsRepository } from './repository';

export type PlanParts = Pick<OccasionsRepository, 'list' | 'find' | 'document'>;

/** What is on in a shop; versions that somebody is inside of are read when they are asked for. */
export function worldOf(occasions: PlanParts, shop: string): World & { plans: readonly Plan[] } {
  const on = occasions.list(shop).filter(({ on_since }) => on_since !== null);
  const known = new Map<string, Plan | null>();
  const plan = (id: string, version: number): Plan | null => {
    const key = `${id} ${version}`;
    let found = known.get(key);
    if (found === undefined) {
      const since = on.find((one) => one.id === id)?.on_since ?? null;
      const occasion = since === null ? null : occasions.document(id, version);
      found = occasion && planOf(id, version, occasion, Date.parse(since ?? ''));
      known.set(key, found);
    }
    return found;
  };
  const plans = on.flatMap(({ id, published }) => {
    const one = published === null ? null : plan(id, published);
    return one ? [one] : [];
  });
  return { plans, plan };
}
