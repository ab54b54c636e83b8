import {
  formulasOf,
  advance,
  toldEffect,
  type Effect,
  type Happening,
  type PersonState,
  type World,
} from '@carafe/core/occasion';
import type { PersonData } from '@carafe/core/record';
import { isDatabaseError } from '../database/databaseError';
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
import { asksLooked, lookedLately } from './looked';
import { worldOf, type PlanParts } from './plans';
import { asKnown, shopMoments, withAsked, type MomentParts, type ShopMoments } from './shopMoments';
import type { AdvanceAnswer, AdvanceTask } from './advanceTask';
import { asksForCrowds, countCrowds } from './countCrowds';
import type { CrowdsRepository } from './crowdsRepository';
import type { StatesRepository } from './statesRepository';
import { batches, type One } from './toAdvance';
import type { ToTellRepository } from './toTellRepository';

export type { AdvanceAnswer, AdvanceTask } from './advanceTask';

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

interface Shop {
  world: World;
  moments: ShopMoments;
  /** Whether an occasion asks what was looked at. */
  looks: boolean;
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
    const known = shop ? withAsked(parts, shop.moments, this.ready(shopId), bare) : bare;
    const found = new Map(known.map(({ id, data }) => [id, data]));
    for (const one of people) {
      this.answer.people++;
      try {
        this.store.db.transaction(() =>
          this.person(shopId, shop, one, one.id === null ? undefined : found.get(one.id)),
        )();
      } catch (error) {
        if (isDatabaseError(error)) throw error;
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
  if (!task.moreFollow) await countCrowds(store, parts);
  return advancing.answer;
}
