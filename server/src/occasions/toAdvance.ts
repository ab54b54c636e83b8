import type { Happening } from '@carafe/core/occasion';
import type { PersonData } from '@carafe/core/record';
import type { EventsRepository } from '../events/repository';
import type { PeopleRepository } from '../people/repository';
import type { AdvanceAnswer, AdvanceTask, ProductHappening } from './advanceTask';
import { LOOKED_DAYS } from './looked';
import type { StatesRepository } from './statesRepository';

const DAY = 86_400_000;
/** People are read so many at a time. */
const BATCH = 200;

/** Somebody whom the engine looks at, with what happened to them. */
export interface One {
  shop: string;
  email: string;
  id: number | null;
  /** Where they were read already. */
  data?: PersonData;
  happenings: readonly Happening[];
}

export interface ToAdvanceParts {
  people: Pick<PeopleRepository, 'bare' | 'idOf' | 'idsAfter' | 'withInCart'>;
  events: Pick<EventsRepository, 'lookersOf'>;
  states: Pick<StatesRepository, 'due'>;
}

type Next = (size: number) => { shop: string; people: One[] } | null;

/** Everybody that a task is about, some at a time; null at the end. */
export function batches(parts: ToAdvanceParts, task: AdvanceTask, answer: AdvanceAnswer): Next {
  switch (task.do) {
    case 'count':
      return () => null;
    case 'due':
      return (size) => {
        const [first, ...rest] = parts.states.due(task.now, Math.min(size, BATCH));
        if (!first) return null;
        const same = [first, ...rest].filter(({ shop }) => shop === first.shop);
        const people = same.map(({ shop, email }): One => ({
          ...{ shop, email, id: parts.people.idOf(shop, email), happenings: [] },
        }));
        return { shop: first.shop, people };
      };
    case 'everyone': {
      let { after, most } = task.part ?? { after: 0, most: Number.POSITIVE_INFINITY };
      return (size) => {
        const ids =
          most > 0 ? parts.people.idsAfter(task.shop, after, Math.min(size, BATCH, most)) : [];
        const last = ids.at(-1);
        answer.last = last === undefined && most > 0 ? null : after;
        if (last === undefined) return null;
        after = last;
        most -= ids.length;
        const happening = task.happening ?? { kind: 'person' as const };
        return { shop: task.shop, people: named(parts, task.shop, ids, () => [happening]) };
      };
    }
    case 'people': {
      const own = (email: string): Happening[] => {
        const told = task.events
          .filter((event) => event.email === email)
          .map((event): Happening => ({ kind: 'person', event }));
        return told.length > 0 ? told : [{ kind: 'person' }];
      };
      return inPieces(parts, task.shop, task.ids, (_, email) => own(email));
    }
    case 'told': {
      const told = new Map(task.told.map(({ id, happenings }) => [id, happenings]));
      return inPieces(parts, task.shop, [...told.keys()], (id) => told.get(id) ?? []);
    }
    case 'products': {
      const told = interested(parts, task.shop, task.changes, task.now);
      return inPieces(parts, task.shop, [...told.keys()], (id) => told.get(id) ?? []);
    }
  }
}

/** Whom changes of products may interest: who has them in the cart, or looked at them lately. */
function interested(
  parts: ToAdvanceParts,
  shop: string,
  changes: readonly ProductHappening[],
  now: number,
): Map<number, Happening[]> {
  const bySku = new Map<string, Happening[]>();
  for (const change of changes) {
    const happening: Happening = { kind: 'product', ...change };
    bySku.set(change.sku, [...(bySku.get(change.sku) ?? []), happening]);
  }
  const skus = [...bySku.keys()];
  const since = new Date(now - LOOKED_DAYS * DAY).toISOString();
  const lookers = parts.events.lookersOf(shop, skus, since).flatMap(({ email, sku }) => {
    const id = parts.people.idOf(shop, email);
    return id === null ? [] : [{ id, sku }];
  });
  const skusOf = new Map<number, Set<string>>();
  for (const { id, sku } of [...parts.people.withInCart(shop, skus), ...lookers])
    skusOf.set(id, (skusOf.get(id) ?? new Set()).add(sku));
  const told = [...skusOf].sort(([a], [b]) => a - b);
  return new Map(told.map(([id, own]) => [id, [...own].flatMap((sku) => bySku.get(sku) ?? [])]));
}

function inPieces(
  parts: ToAdvanceParts,
  shop: string,
  ids: readonly number[],
  happenings: (id: number, email: string) => Happening[],
): Next {
  const left = [...ids];
  return (size) => {
    const some = left.splice(0, Math.min(size, BATCH));
    return some.length === 0 ? null : { shop, people: named(parts, shop, some, happenings) };
  };
}

function named(
  parts: ToAdvanceParts,
  shop: string,
  ids: readonly number[],
  happenings: (id: number, email: string) => Happening[],
): One[] {
  return parts.people.bare(shop, ids).map(({ id, data }): One => {
    const email = String((data.person as { email?: unknown }).email ?? '').toLowerCase();
    return { shop, email, id, data, happenings: happenings(id, email) };
  });
}
