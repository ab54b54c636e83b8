import { planOf, type Plan, type World } from '@carafe/core/occasion';
import type { OccasionsRepository } from './repository';

export type PlanParts = Pick<OccasionsRepository, 'on' | 'find' | 'document' | 'live'>;

/**
 * What is on in a shop; versions that somebody is inside of are read when they are asked for. One that cannot be read
 * begins for nobody, and asking for it throws: whoever is inside waits, and nobody else.
 */
export function worldOf(occasions: PlanParts, shop: string): World & { plans: readonly Plan[] } {
  const on = occasions.on(shop);
  const known = new Map<string, Plan | null>();
  const plan = (id: string, version: number): Plan | null => {
    const key = `${id} ${version}`;
    let found = known.get(key);
    if (found === undefined) {
      const draft = on.find((one) => one.id === id);
      const occasion = draft ? occasions.document(id, version) : null;
      const since = Date.parse(draft?.heeded_since ?? draft?.on_since ?? '');
      const watching = draft?.watching_since ? Date.parse(draft.watching_since) : since;
      found = occasion && planOf(id, version, occasion, since, watching);
      known.set(key, found);
    }
    return found;
  };
  const plans = on.flatMap((draft) => {
    const { id, published } = draft;
    const one = published !== null && occasions.live(draft) ? plan(id, published) : null;
    return one ? [one] : [];
  });
  return { plans, plan };
}
