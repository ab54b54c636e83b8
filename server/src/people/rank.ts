import { ranks } from '@carafe/core/record';
import type { Store } from '../database/store';
import type { PeopleRepository } from './repository';

/** Ranks the people of a shop anew; only ranks that changed are written. */
export async function rankPeople(
  store: Store,
  people: Pick<PeopleRepository, 'buying' | 'setRank'>,
  shop: string,
): Promise<void> {
  const all = people.buying(shop);
  const changed = ranks(all).flatMap((rank, i) => {
    const before = all[i];
    return before && before.rank !== (rank ?? null) ? [{ id: before.id, rank: rank ?? null }] : [];
  });
  let at = 0;
  await store.writeInSlices((size) => {
    for (const { id, rank } of changed.slice(at, at + size)) people.setRank(id, rank);
    at += size;
    return at < changed.length;
  });
}
