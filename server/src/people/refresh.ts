import type { Store } from '../database/store';
import type { PeopleChangesRepository } from './changesRepository';
import type { Folding } from './foldBeside';
import { foldPerson, type FoldParts } from './foldPerson';
import type { KeptPerson } from './personRow';
import { rankPeople } from './rank';
import type { PeopleRepository } from './repository';
import type { Stale, StalePeopleRepository } from './staleRepository';

/** What putting people together reads and writes. */
export interface PeopleParts extends FoldParts {
  people: PeopleRepository;
  peopleChanges: Pick<PeopleChangesRepository, 'recordOf' | 'note'>;
  stalePeople: StalePeopleRepository;
  /** Where many are folded; without it all are folded here. */
  folding?: Folding;
}

/** Ids of people who were put together anew are told one by one up to here. */
const MOST_TOLD = 500;
/** So many people are worth a thread that folds some of them. */
const MANY = 3_000;
/** So many people are folded at a time where a thread folds some: as many as are written in a moment. */
const AT_ONCE = 100;
/** So many batches are asked of the thread ahead: it has the next while one is fetched. */
const AHEAD = 3;

export interface Refreshed {
  /** Who is of whom something changed; empty where they are too many to tell. */
  ids: number[];
  count: number;
}

/** Puts the stale people of a shop together, and remembers whom. */
class Refresh {
  readonly ids: number[] = [];
  count = 0;
  /** Whether somebody has bought more, or less, than before: by an order, its end, or by whose it turned out to be. */
  isBoughtOtherwise = false;

  constructor(
    private readonly parts: PeopleParts,
    private readonly shop: string,
    private readonly isCompared: boolean,
    private readonly now: string,
  ) {}

  /** Writes one who was folded; who is in no source and no event any more goes. */
  put({ id: mark, email }: Stale, row: KeptPerson | null): void {
    const { people, peopleChanges, stalePeople } = this.parts;
    const isCompared = this.isCompared && !this.isBoughtOtherwise;
    const before = isCompared ? people.boughtBy(this.shop, email) : undefined;
    let id: number | null = null;
    if (row) {
      const known = peopleChanges.recordOf(this.shop, email);
      id = people.keepRow(this.shop, row);
      if (known !== undefined && known !== row.record)
        peopleChanges.note(id, this.now, known, row.record);
    } else {
      const gone = people.idOf(this.shop, email);
      if (gone !== null) people.drop(gone);
    }
    if (isCompared && people.boughtBy(this.shop, email) !== before) this.isBoughtOtherwise = true;
    stalePeople.done(mark);
    this.count++;
    if (id !== null && this.count <= MOST_TOLD) this.ids.push(id);
  }

  /** Folds some and writes them: what is read is what is written from. */
  here(some: readonly Stale[]): void {
    for (const one of some) this.put(one, foldPerson(this.parts, this.shop, one.email));
  }
}

/** Some who are folded in the thread, as of a state of the database. */
interface Asked {
  some: readonly Stale[];
  state: number;
  rows: (KeptPerson | null)[] | null;
  answer: Promise<void>;
}

/**
 * Many: a thread folds most of them, and this one the rest, and writes all. What the thread has read is taken only if
 * nobody else has written since it was asked; else it is folded here once more.
 */
async function refreshMany(
  store: Store,
  { stalePeople, folding }: PeopleParts & { folding: Folding },
  shop: string,
  refresh: Refresh,
): Promise<void> {
  const thread = folding(store.db.name);
  let last = 0;
  const next = () => {
    const some = stalePeople.after(shop, last, AT_ONCE);
    last = some.at(-1)?.id ?? last;
    return some;
  };
  const asked: Asked[] = [];
  const ask = () => {
    const state = store.othersWrote();
    const some = next();
    if (some.length === 0) return false;
    const one: Asked = { some, state, rows: null, answer: Promise.resolve() };
    one.answer = thread
      .fold(
        shop,
        some.map(({ email }) => email),
      )
      .then((rows) => void (one.rows = rows));
    // Whoever waits for it is told; until then nobody is.
    one.answer.catch(() => undefined);
    asked.push(one);
    return true;
  };
  try {
    for (;;) {
      // What the thread has answered meanwhile is heard.
      await new Promise<void>((done) => setImmediate(done));
      while (asked.length < AHEAD && ask());
      const [first] = asked;
      if (!first) return;
      if (first.rows === null) {
        const own = next();
        if (own.length > 0) {
          await store.write(() => refresh.here(own));
          continue;
        }
        await first.answer;
      }
      asked.shift();
      await store.write(() => {
        const { some, rows, state } = first;
        if (rows === null || store.othersWrote() !== state) refresh.here(some);
        else some.forEach((one, i) => refresh.put(one, rows[i] ?? null));
      });
    }
  } finally {
    await thread.close();
  }
}

interface HowRefreshed {
  /** Whether the shop’s people are ranked always, or where somebody has bought otherwise than before. */
  ranks: 'always' | 'where bought';
  /** Since when they are known otherwise than before, in ISO 8601. */
  now: string;
}

/** Puts everybody of a shop together anew who waits for it, a few in each transaction, and notes what changed of them. */
export async function refreshStale(
  store: Store,
  parts: PeopleParts,
  shop: string,
  { ranks, now }: HowRefreshed,
): Promise<Refreshed> {
  const refresh = new Refresh(parts, shop, ranks === 'where bought', now);
  const { folding, stalePeople } = parts;
  if (folding && stalePeople.areMany(shop, MANY))
    await refreshMany(store, { ...parts, folding }, shop, refresh);
  await store.writeInSlices((size) => {
    const some = stalePeople.after(shop, 0, size);
    refresh.here(some);
    return some.length === size;
  });
  const { ids, count, isBoughtOtherwise } = refresh;
  if (count > 0 && (ranks === 'always' || isBoughtOtherwise))
    await rankPeople(store, parts.people, shop);
  return { ids: count <= MOST_TOLD ? ids : [], count };
}
