import { targetOf } from '@carafe/core/intake';
import type { Store } from '../database/store';
import { noShop } from '../events/refusals';
import { markTouched } from '../events/touched';
import type { EventsRepository } from '../events/repository';
import { Refusal } from '../http/errors';
import type { Progress } from '../jobs/jobs';
import type { PeopleChangesRepository } from '../people/changesRepository';
import { refreshStale, type PeopleParts } from '../people/refresh';
import type { ShopsRepository } from '../shops/repository';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import type { SourcesRepository } from '../sources/repository';
import { rejectEmptyOrders } from './emptyOrders';
import type { GenerationsRepository } from './generations';
import type { ImportsRepository } from './repository';
import { openStaging } from './staging';
import type { ApplyTask, UndoTask } from './task';

export interface ImportParts extends PeopleParts {
  shops: Pick<ShopsRepository, 'list'>;
  sources: Pick<SourcesRepository, 'find' | 'touched'>;
  imports: Pick<ImportsRepository, 'find' | 'undone' | 'applying' | 'change'>;
  events: EventsRepository;
  generations: GenerationsRepository;
  productChanges: ProductChangesRepository;
  peopleChanges: PeopleChangesRepository;
}

/** What products cost, and what was known of people, is kept for so many days: as far as occasions are replayed. */
const KNOWN_DAYS = 400;
const DAY = 86_400_000;

/** Runs `work` over a list, a slice in each transaction. */
export async function inSlices<T>(
  store: Store,
  list: readonly T[],
  work: (some: readonly T[]) => void,
): Promise<void> {
  let at = 0;
  if (list.length === 0) return;
  await store.writeInSlices((size) => {
    work(list.slice(at, at + size));
    at += size;
    return at < list.length;
  });
}

/** Takes away what an import that was cut off has left of a source. Nobody ever saw it. */
export async function dropUnseen(
  store: Store,
  { generations, productChanges }: Pick<ImportParts, 'generations' | 'productChanges'>,
  source: string,
  generation: number,
): Promise<void> {
  await inSlices(store, generations.unseen(source, generation), generations.remove);
  await inSlices(store, generations.unended(source, generation), (ids) =>
    generations.end(ids, null),
  );
  await inSlices(store, productChanges.unseen(source, generation), productChanges.remove);
}

/** The shops that a source serves. */
export function shopsOf({ shops }: Pick<ImportParts, 'shops'>, shop: string | null): string[] {
  return shop === null ? shops.list().map(({ id }) => id) : [shop];
}

async function markStale(
  store: Store,
  parts: ImportParts,
  shop: string | null,
  owners: readonly string[],
): Promise<void> {
  for (const one of shopsOf(parts, shop))
    await inSlices(store, owners, (some) => parts.stalePeople.add(one, some));
}

/** Writes the staged rows as the next generation of their source; gives how many rows it has more. */
async function writeRows(
  store: Store,
  parts: ImportParts,
  { source, mode, target, now }: ApplyTask,
  generation: number,
  progress: Progress,
): Promise<number> {
  const { generations, productChanges, peopleChanges } = parts;
  const before = parts.sources.find(source)?.row_count ?? 0;
  // One step back is kept: what the file before replaced can go.
  await inSlices(store, generations.past(source, generation - 1), generations.remove);
  const forgotten = new Date(Date.parse(now) - KNOWN_DAYS * DAY).toISOString();
  await inSlices(store, productChanges.old(source, forgotten), productChanges.remove);
  await inSlices(store, peopleChanges.old(forgotten), peopleChanges.remove);
  const place = generations.lastPlace(source);
  const last = generations.lastStaged('staged');
  let from = 0;
  await store.writeInSlices((size) => {
    const stretch = { from, to: from + size, source, generation };
    if (before === 0) generations.insertFirst(stretch);
    else {
      if (target === 'catalog') productChanges.note({ ...stretch, now });
      generations.insertNext({ ...stretch, place });
    }
    from += size;
    void progress(Math.min(from, last));
    return from < last;
  });
  const gone = mode === 'whole' && before > 0 ? generations.gone(source) : [];
  await inSlices(store, gone, (ids) => generations.end(ids, generation));
  return gone.length;
}

async function writeEvents(
  store: Store,
  parts: ImportParts,
  task: ApplyTask,
  progress: Progress,
): Promise<{ shops: string[]; taken: number }> {
  const [unknown] = parts.events.stagedElsewhere();
  // It was checked, but perhaps long ago.
  if (unknown !== undefined)
    throw new Refusal(409, `${noShop(unknown)} Check the file again: its events are rejected.`);
  const last = parts.generations.lastStaged('events');
  let from = 0;
  let taken = 0;
  await store.writeInBulk((size) => {
    taken += parts.events.insertStaged(from, from + size, task.import);
    from += size;
    void progress(Math.min(from, last));
    return from < last;
  });
  const shops = await markTouched(store, parts, parts.events.stagedAbout());
  const rejected = await rejectEmptyOrders(store, parts, task, taken);
  return { shops: [...new Set([...shops, ...rejected.shops])], taken: taken - rejected.count };
}

/**
 * Imports a checked file. It is written in many short transactions that nobody sees, and becomes visible
 * with one: a stop at any point leaves all of it or nothing. Whom it is about is put together anew.
 */
export async function applyImport(
  store: Store,
  parts: ImportParts,
  task: ApplyTask,
  progress: Progress,
): Promise<void> {
  const { generations, sources } = parts;
  const source = sources.find(task.source);
  if (!source) throw new Error(`The source ${task.source} no longer exists.`);
  const staging = openStaging(task.staging);
  const meta = staging.meta();
  const added = staging.count('new');
  staging.close();
  await dropUnseen(store, parts, source.id, source.generation);
  const generation = source.generation + 1;
  const shown = { import: task.import, source: source.id, generation, meta };
  const { settings, now } = task;
  generations.attach(task.staging);
  let shops: string[] = [];
  try {
    if (task.target === 'events') {
      const written = await store.withRoom(() => writeEvents(store, parts, task, progress));
      ({ shops } = written);
      await store.write(() => generations.show({ ...shown, settings, now, rows: written.taken }));
    } else {
      const gone = await writeRows(store, parts, task, generation, progress);
      if (targetOf(task.target).feeds === 'people') {
        await markStale(store, parts, task.shop, [
          ...generations.stagedOwners(),
          ...generations.owners(source.id, generation),
        ]);
        shops = shopsOf(parts, task.shop);
      }
      await store.write(() => generations.show({ ...shown, settings, now, rows: added - gone }));
    }
  } finally {
    generations.detach();
  }
  for (const shop of shops) await refreshStale(store, parts, shop, { ranks: 'always', now });
}

/** Takes away the events that an import brought; gives the shops that they were of. */
async function removeEvents(store: Store, parts: ImportParts, id: string): Promise<string[]> {
  const events = parts.events.ofImport(id);
  const ofOrders = events.flatMap(({ shop, number }) =>
    number === null
      ? []
      : parts.events.orderOwners(shop, number).map((owner) => ({ shop, owner, visitor: null })),
  );
  await inSlices(store, events, (some) => parts.events.remove(some.map(({ rowid }) => rowid)));
  return markTouched(store, parts, [...events, ...ofOrders]);
}

/** Goes back to what a source held before its last import: seen at once, and cleared away after. */
export async function undoImport(
  store: Store,
  parts: ImportParts,
  { import: id, source: sourceId, target, shop, rows, now }: UndoTask,
): Promise<void> {
  const { generations } = parts;
  const source = parts.sources.find(sourceId);
  if (!source) throw new Error(`The source ${sourceId} no longer exists.`);
  let shops: string[];
  if (target === 'events') {
    const held = parts.events.ofImport(id).length;
    shops = await removeEvents(store, parts, id);
    await store.write(() => {
      generations.showBefore(source.id, source.generation, -held);
      parts.imports.undone(id);
    });
  } else {
    const before = source.generation - 1;
    shops = targetOf(target).feeds === 'people' ? shopsOf(parts, shop) : [];
    if (shops.length > 0)
      await markStale(store, parts, shop, generations.owners(source.id, source.generation));
    await store.write(() => {
      generations.showBefore(source.id, before, -rows);
      parts.imports.undone(id);
    });
    await dropUnseen(store, parts, source.id, before);
  }
  for (const one of shops) await refreshStale(store, parts, one, { ranks: 'always', now });
}

/**
 * Makes good what a stop has cut off: what was being imported is as if it had not begun, and can be
 * imported again; people who waited are put together. Gives the imports.
 */
export async function recoverImports(
  store: Store,
  parts: ImportParts,
  { now }: { now: string },
): Promise<string[]> {
  const cut = parts.imports.applying();
  for (const { id, source: sourceId } of cut) {
    const source = parts.sources.find(sourceId);
    await removeEvents(store, parts, id);
    if (source) await dropUnseen(store, parts, source.id, source.generation);
    await store.write(() =>
      parts.imports.change(id, {
        state: 'checked',
        message: 'Carafe was stopped during this import. Nothing was kept. Import the file again.',
      }),
    );
  }
  for (const shop of parts.stalePeople.shops())
    await refreshStale(store, parts, shop, { ranks: 'always', now });
  return cut.map(({ id }) => id);
}
