import type { PeopleRepository } from './repository';

/** A thread is given so many people at a time, at most. */
const PART = 1_500;
/** So few are one thread’s: a second one would first have to be started, which takes longer than they do. */
export const FEW = 500;

/** Some of the people of a shop: those after an id, so many at most. */
export interface Piece {
  after: number;
  most: number;
}

/**
 * Does something with some people of a shop, in parts for the threads, each small enough that none of them waits long
 * for the other. Gives what came of the parts, with how far it got.
 */
export async function inParts<T>(
  people: Pick<PeopleRepository, 'idsAfter' | 'count'>,
  shop: string,
  { after, most }: Piece,
  run: (ids: number[]) => Promise<T>,
  part = PART,
): Promise<{ parts: T[]; looked: number; people: number; next: number | null }> {
  const ids = people.idsAfter(shop, after, most);
  // As many for the one thread as for the other.
  const turns = Math.ceil(ids.length / 2 / part);
  const size = ids.length <= FEW ? FEW : Math.ceil(ids.length / 2 / turns);
  const starts = Array.from({ length: Math.max(1, Math.ceil(ids.length / size)) }, (_, i) => i);
  return {
    parts: await Promise.all(starts.map((i) => run(ids.slice(i * size, (i + 1) * size)))),
    ...{ looked: ids.length, people: people.count(shop) },
    next: ids.length < most ? null : (ids.at(-1) ?? null),
  };
}
