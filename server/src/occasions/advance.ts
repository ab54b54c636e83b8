import {
  formulasOf,
  advance,
  toldEffect,
  type Effect,
  type Happening,
  type PersonState,
  type Plan,
  type World,
} from '@carafe/core/occasion';
import type { PersonData, ShopEvent } from '@carafe/core/record';
import { figure } from '@carafe/core/words';
import type { Store } from '../database/store';
import type { EventsRepository } from '../events/repository';
import type { Job } from '../jobs/jobs';
import type { OutboxRepository } from '../outbox/repository';
import type { LedgerRepository } from '../outbox/ledgerRepository';
import type { PeopleRepository } from '../people/repository';
import type { picksOfMany } from '../recommend/picks';
import type { JobsRepository } from '../queue/jobsRepository';
import { pauseAfter, reasonOf } from '../queue/queue';
import { readyShop, type ReadyTask } from '../recommend/ready';
import { asksLooked, LOOKED_DAYS, lookedLately } from './looked';
import { worldOf, type PlanParts } from './plans';
import { asKnown, shopMoments, withPicks, type MomentParts, type ShopMoments } from './shopMoments';
import type { CrowdsRepository } from './crowdsRepository';
import type { StatesRepository } from './statesRepository';
import type { ToTellRepository } from './toTellRepository';

type ProductHappening = Omit<Extract<Happening, { kind: 'product' }>, 'kind'>;

/** What the engine is to look at. */
export type AdvanceTask = {
  /** Milliseconds. */
  now: number;
  /** What ids of mails begin with; each is told apart by a number. */
  mailIds: string;
  /** What is asked of the rules of each shop. */
  picks: Record<string, ReadyTask>;
  /** More people are let in right after: a crowd is counted when all were. */
  moreFollow?: boolean;
} & (
  | { do: 'due'; late: boolean }
  /** Nobody: crowds are counted alone. */
  | { do: 'count' }
  | { do: 'people'; shop: string; ids: number[]; events: ShopEvent[] }
  | {
      do: 'everyone';
      shop: string;
      happening: Happening | null;
      /** Only so many, behind somebody: whatever happens meanwhile has its turn in between. */
      part?: { after: number; most: number };
    }
  | { do: 'told'; shop: string; told: { id: number; happenings: Happening[] }[] }
  | { do: 'products'; shop: string; changes: ProductHappening[] }
);

export interface AdvanceAnswer {
  people: number;
  mails: number;
  entered: number;
  /** How many people were set aside. */
  aside?: number;
  /** Of a part of everybody: who was the last; null where there is nobody behind. */
  last?: number | null;
}
export interface OccasionJobs {
  advance: Job<AdvanceTask, AdvanceAnswer>;
}

export type AdvanceParts = MomentParts &
  Parameters<typeof picksOfMany>[0] & {
    occasions: PlanParts;
    states: StatesRepository;
    toTell: Pick<ToTellRepository, 'toldEvent'>;
    people: Pick<PeopleRepository, 'bare' | 'idOf' | 'idsAfter' | 'withInCart'>;
    events: Pick<EventsRepository, 'seenBy' | 'lookersOf'>;
    outbox: Pick<
      OutboxRepository,
      'insert' | 'findKey' | 'refusedAddress' | 'holdCrowd' | 'sentElsewhere'
    >;
    ledger: Pick<LedgerRepository, 'created'>;
    crowds: CrowdsRepository;
    queuedJobs: Pick<JobsRepository, 'setAside'>;
  };

/** What the database itself cannot do is no fault of one person. */
const isOfDatabase = (error: unknown): boolean => {
  const { code = '' } = error as { code?: string };
  return code.startsWith('SQLITE_') && !code.startsWith('SQLITE_CONSTRAINT');
};

const DAY = 86_400_000;
/** People are read so many at a time. */
const BATCH = 200;

interface Shop {
  world: World;
  moments: ShopMoments;
  /** Whether an occasion asks what was looked at. */
  looks: boolean;
}

interface One {
  shop: string;
  email: string;
  id: number | null;
  /** Where they were read already. */
  data?: PersonData;
  happenings: readonly Happening[];
}

/** The engine over what is stored: reads people and states, writes states, what was told, and mails, in one transaction each. */
class Advancing {
  private readonly shops = new Map<string, Shop | null>();
  private count = 0;
  /** Occasions that somebody entered, with when first, in milliseconds: those are counted at the end. */
  private readonly firstEntries = new Map<string, number>();
  readonly answer: AdvanceAnswer = { people: 0, mails: 0, entered: 0 };

  constructor(
    private readonly store: Store,
    private readonly parts: AdvanceParts,
    private readonly task: AdvanceTask,
  ) {}

  private shop(id: string): Shop | null {
    let found = this.shops.get(id);
    if (found === undefined) {
      const { parts, task } = this;
      const world = worldOf(parts.occasions, id);
      const formulas = world.plans.flatMap(({ occasion }) => formulasOf(occasion));
      const moments = shopMoments(parts, id, new Date(task.now), { formulas });
      const looks = world.plans.some(({ occasion: { start } }) => asksLooked(start));
      found = moments && { world, moments, looks };
      this.shops.set(id, found);
    }
    return found;
  }

  private ready(shop: string): ReadyTask {
    return this.task.picks[shop] ?? asKnown(shop, this.task.now);
  }

  /** Makes the indexes of rules that are asked, before anybody waits for the writing. */
  prepare(): void {
    for (const shop of Object.keys(this.task.picks))
      if (this.shop(shop)?.moments.asksPicks) readyShop(this.parts, this.ready(shop));
  }

  /** The people that are known, without the token of their links, which no condition asks for. */
  private read(shop: string, people: readonly One[]): { id: number; data: PersonData }[] {
    const ids: number[] = [];
    const read: { id: number; data: PersonData }[] = [];
    for (const { id, data } of people)
      if (id !== null && data) read.push({ id, data });
      else if (id !== null) ids.push(id);
    return ids.length === 0 ? read : [...read, ...this.parts.people.bare(shop, ids)];
  }

  /** Advances some people of one shop. Inside a transaction. */
  some(shopId: string, people: readonly One[]): void {
    const { parts } = this;
    const shop = this.shop(shopId);
    const bare = this.read(shopId, people);
    const known = shop ? withPicks(parts, shop.moments, this.ready(shopId), bare) : bare;
    const found = new Map(known.map(({ id, data }) => [id, data]));
    for (const one of people) {
      this.answer.people++;
      try {
        this.store.db.transaction(() =>
          this.person(shopId, shop, one, one.id === null ? undefined : found.get(one.id)),
        )();
      } catch (error) {
        if (isOfDatabase(error)) throw error;
        this.setAside(shopId, one, error);
      }
    }
  }

  /** What became of one person cannot be worked out: they alone are set aside, with the reason, and tried again. */
  private setAside(shop: string, { email, id }: One, error: unknown): void {
    const { states, queuedJobs } = this.parts;
    const { now } = this.task;
    states.setAside(shop, email);
    queuedJobs.setAside(
      {
        ...{ kind: 'person', key: `${shop} ${email}`, shop, payload: { email, id } },
        runAt: now + pauseAfter(1),
      },
      reasonOf(error),
      now,
    );
    this.answer.aside = (this.answer.aside ?? 0) + 1;
  }

  /** Advances one person. Inside a transaction of its own. */
  private person(
    shopId: string,
    shop: Shop | null,
    { email, happenings }: One,
    data: PersonData | undefined,
  ): void {
    const { parts, task } = this;
    for (const one of happenings)
      if (one.kind === 'person' && one.event?.kind === 'viewed') parts.toTell.toldEvent(one.event);
    const before = parts.states.get(shopId, email);
    if (!shop || !data) {
      // Who is gone is inside of nothing any more.
      if (before.runs.length > 0)
        parts.states.put(shopId, email, { ...before, runs: [] }, () => null);
      return;
    }
    const { world, moments, looks } = shop;
    const refused = parts.outbox.refusedAddress(email) !== null;
    const sentElsewhere = (occasion: string, cause: string, step: string) =>
      parts.outbox.sentElsewhere(shopId, email, { occasion, cause, step });
    const looked = looks ? lookedLately(parts.events, shopId, email, task.now) : undefined;
    const of = (at: number, happening: Happening | null = null) =>
      moments.moments.moment({
        ...{ data, at, happening, reacted, refused, sentElsewhere, ...(looked && { looked }) },
      });
    const reacted = (key: string) => {
      const row = parts.outbox.findKey(shopId, email, key);
      return { opened: Boolean(row?.opened_at), clicked: Boolean(row?.clicked_at) };
    };
    // What a person has received is known to the outbox alone.
    const begin: PersonState = { ...before, mails: parts.ledger.created(shopId, email) };
    let state = begin;
    const effects: Effect[] = [];
    const take = (told: ReturnType<typeof advance>) => {
      ({ state } = told);
      effects.push(...told.effects);
    };
    for (const happening of happenings)
      take(advance(state, { kind: 'happening', moment: of(task.now, happening) }, world));
    const late = task.do === 'due' && task.late;
    take(advance(state, { kind: 'time', until: task.now, late, moment: of }, world));
    if (state === begin && effects.length === 0) return;
    const kept: PersonState = { ...state, mails: [] };
    if (JSON.stringify(kept) !== JSON.stringify(before))
      parts.states.put(shopId, email, kept, world.plan);
    const told = effects.map((effect) => {
      const { at, occasion, version } = effect;
      const plan = world.plan(occasion, version);
      return toldEffect(effect, plan && plan.occasion, (formula, beside) =>
        moments.moments.explain({ data, at, ...(looked && { looked }) }, formula, beside),
      );
    });
    parts.states.tell(shopId, email, told);
    this.made(shop, shopId, email, effects);
  }

  private made(shop: Shop, shopId: string, email: string, effects: readonly Effect[]): void {
    const { crowds, outbox } = this.parts;
    for (const effect of effects) {
      const { occasion, version } = effect;
      const plan = shop.world.plan(occasion, version);
      if (effect.kind === 'entered') {
        this.answer.entered++;
        if (plan && asksForCrowds(plan)) this.counted(shopId, occasion, effect.at);
      }
      if (effect.kind !== 'mail') continue;
      const id = `${this.task.mailIds}-${++this.count}`;
      const { priority = 0 } = plan?.occasion ?? {};
      const inCrowd = crowds.isAsking(occasion);
      if (outbox.insert(id, shopId, email, effect, effect.beside, { priority, inCrowd }))
        this.answer.mails++;
    }
  }

  /** Somebody entered: nothing of the occasion leaves until everybody has who is let in with them. */
  private counted(shop: string, occasion: string, at: number): void {
    if (at >= (this.firstEntries.get(occasion) ?? Number.POSITIVE_INFINITY)) return;
    this.firstEntries.set(occasion, at);
    this.parts.crowds.begin(occasion, shop, at);
  }

  /**
   * Everybody was let in: an occasion that more people entered within an hour than the shop allows is held, all that it
   * has not sent yet, until somebody has answered. Those whom a stop kept from being counted are counted as well.
   */
  async countCrowds(): Promise<void> {
    const { crowds, shopRules, outbox } = this.parts;
    for (const { occasion, shop, from } of crowds.uncounted()) {
      const most = shopRules.get(shop).most_an_hour;
      const people = crowds.fullestHour(occasion, from);
      if (people <= most) {
        await this.store.write(() => crowds.end(occasion));
        continue;
      }
      // Held before it is asked: a stop in between leaves them to be counted again.
      await this.store.writeInSlices((size) => {
        const reason = sayCrowd(people, most);
        return outbox.holdCrowd(occasion, reason, size) === size;
      });
      await this.store.write(() => crowds.ask(occasion, people, most));
    }
  }
}

/** Those that start by the clock are for many by nature: how many is asked before they are switched on. */
const asksForCrowds = ({ occasion: { start } }: Plan): boolean =>
  start.kind !== 'at_time' && start.kind !== 'repeating';

/** Why emails of a crowd are held. */
export const sayCrowd = (people: number, most: number): string =>
  `${figure(people)} people entered this occasion within an hour; the shop asks from ${figure(most + 1)} on.`;

type Next = (size: number) => { shop: string; people: One[] } | null;

/** Everybody that a task is about, some at a time; null at the end. */
function batches(parts: AdvanceParts, task: AdvanceTask, answer: AdvanceAnswer): Next {
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
  parts: AdvanceParts,
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
  parts: AdvanceParts,
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
  parts: AdvanceParts,
  shop: string,
  ids: readonly number[],
  happenings: (id: number, email: string) => Happening[],
): One[] {
  return parts.people.bare(shop, ids).map(({ id, data }): One => {
    const email = String((data.person as { email?: unknown }).email ?? '').toLowerCase();
    return { shop, email, id, data, happenings: happenings(id, email) };
  });
}

/** Looks at whoever a task is about, in short transactions. Nobody is looked at twice for one due time. */
export async function advanceAll(
  store: Store,
  parts: AdvanceParts,
  task: AdvanceTask,
): Promise<AdvanceAnswer> {
  const advancing = new Advancing(store, parts, task);
  advancing.prepare();
  const next = batches(parts, task, advancing.answer);
  await store.writeInSlices((size) => {
    const batch = next(size);
    if (!batch) return false;
    advancing.some(batch.shop, batch.people);
    return true;
  });
  if (!task.moreFollow) await advancing.countCrowds();
  return advancing.answer;
}
