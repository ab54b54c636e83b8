import { earliest, nextWall, wallAt, type Happening, type Start } from '@carafe/core/occasion';
import { whatChanged, type ShopEvent } from '@carafe/core/record';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { Sender } from '../outbox/sender';
import type { PeopleRepository } from '../people/repository';
import type { RulesService } from '../recommend/service';
import type { ShopsRepository } from '../shops/repository';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import type { SourcesRepository } from '../sources/repository';
import { MOST_PRODUCTS } from './dated';
import type { AdvanceAnswer, AdvanceTask, OccasionJobs } from './advance';
import type { CrowdsRepository } from './crowdsRepository';
import type { OccasionsRepository, StoredDraft } from './repository';
import type { StatesRepository } from './statesRepository';
import type { ToTellRepository } from './toTellRepository';

interface Given {
  store: Pick<Store, 'write'>;
  occasions: OccasionsRepository;
  states: Pick<StatesRepository, 'nextDue'>;
  crowds: Pick<CrowdsRepository, 'uncounted'>;
  sources: Pick<SourcesRepository, 'find'>;
  entries: Pick<EntriesRepository, 'untold'>;
  productChanges: Pick<ProductChangesRepository, 'untold'>;
  people: Pick<PeopleRepository, 'idOf'>;
  toTell: ToTellRepository;
  shops: Pick<ShopsRepository, 'find' | 'list'>;
  rules: Pick<RulesService, 'task'>;
  jobs: Jobs<OccasionJobs>;
  sender: Sender;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  newId: () => string;
}

type Asked = AdvanceTask extends infer T
  ? T extends AdvanceTask
    ? Omit<T, 'now' | 'mailIds' | 'picks' | 'moreFollow'>
    : never
  : never;

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
/** Between two ticks that lie further apart the server slept: what is overdue counts from now. */
const SLEPT = 10 * MINUTE;
/** A repeating time that is missed by more is passed over. */
const MISSED = DAY;
/** A feed that brings more posts at once is a new one, not news. */
const MOST_POSTS = 20;
/** After a start so many are looked at before whatever happened meanwhile has its turn. */
const A_PART = 5_000;
/** While many are looked at, what was made so far goes on so often. */
const MEANWHILE_MS = 2_000;

/** Tells the engine what happens, one thing after the other, and has what it makes sent. */
export class Runner {
  private last: Promise<unknown> = Promise.resolve();
  private tickedAt: number | null = null;
  /** Everybody is looked at in parts after a start: crowds are counted at the end. */
  private isBeginning = false;

  constructor(private readonly given: Given) {
    given.updates.listen(({ update }) => {
      if (update.type === 'people' && update.ids.length === 0)
        void this.everyone(update.shop, null);
      // What cannot be told now, as with a full disk, is after the next start.
      if (update.type === 'import' && update.state === 'applied')
        void this.imported(update.source).catch((error: unknown) => given.log.error(error));
    });
  }

  /** What is on in a shop. */
  private on(shop: string): StoredDraft[] {
    return this.given.occasions.on(shop);
  }

  private startsOf(shop: string): Start[] {
    return this.on(shop).flatMap((draft) => {
      const occasion = this.given.occasions.live(draft);
      return occasion ? [occasion.start] : [];
    });
  }

  /** Runs one thing when its turn has come; errors are logged, and hold nothing up. */
  private enqueue<T>(work: () => Promise<T>): Promise<T | null> {
    const done = this.last.then(work).catch((error: unknown) => {
      this.given.log.error(error);
      return null;
    });
    this.last = done;
    return done;
  }

  /** Waits until all that was told so far is done. */
  async idle(): Promise<void> {
    await this.last;
  }

  private async advance(asked: Asked, at?: number): Promise<AdvanceAnswer> {
    const { jobs, now, newId, sender, updates, rules, shops } = this.given;
    const on = shops.list().filter(({ id }) => this.on(id).length > 0);
    const picks = Object.fromEntries(on.map(({ id }) => [id, rules.task(id, false)]));
    const told = { now: at ?? now().getTime(), mailIds: newId(), picks };
    const task = { ...asked, ...told, moreFollow: this.isBeginning } as AdvanceTask;
    // What many get is filled while the rest of them are looked at.
    const meanwhile = setInterval(() => void sender.kick(), MEANWHILE_MS);
    const answer = await jobs.run('advance', task).finally(() => clearInterval(meanwhile));
    if (answer.mails > 0) {
      updates.publish({ type: 'outbox' });
      void sender.kick();
    }
    if (answer.mails > 0 || answer.entered > 0)
      for (const { id } of this.given.shops.list())
        updates.publish({ type: 'occasions', shop: id });
    return answer;
  }

  /** Something happened to some people. */
  heard(shop: string, ids: number[], events: ShopEvent[]): void {
    if (this.on(shop).length === 0) return;
    void this.enqueue(() => this.advance({ do: 'people', shop, ids, events }));
  }

  /** Looks at everybody of a shop, who may have changed. */
  everyone(shop: string, happening: Happening | null): Promise<AdvanceAnswer | null> {
    if (this.on(shop).length === 0) return Promise.resolve(null);
    return this.enqueue(() => this.advance({ do: 'everyone', shop, happening }));
  }

  /** Looks once more at somebody whose look failed; throws where it fails again. */
  async again(shop: string, { id }: { id: number }): Promise<void> {
    const asked = { do: 'people' as const, shop, ids: [id], events: [] };
    const answer = await this.enqueue(() => this.advance(asked));
    if (answer === null || (answer.aside ?? 0) > 0)
      throw new Error('It failed again in the same way');
  }

  /** Lets people in by hand. */
  byHand(shop: string, occasion: string, ids: readonly number[], name: string) {
    const told = ids.map((id) => ({ id, happenings: [{ kind: 'hand' as const, occasion, name }] }));
    return this.enqueue(() => this.advance({ do: 'told', shop, told }));
  }

  /**
   * After a start: whoever is due, and then everybody, whatever the last stop has cut off. What people did is kept before the
   * engine is told of it, and a cause starts an occasion once, so that whoever was told already gets nothing twice.
   */
  async begin(): Promise<void> {
    await this.tick();
    this.isBeginning = true;
    try {
      for (const { id } of this.given.shops.list()) {
        await this.looks(id);
        let after: number | null = this.on(id).length > 0 ? 0 : null;
        while (after !== null) after = await this.some(id, after);
      }
    } finally {
      this.isBeginning = false;
    }
    await this.countCrowds();
    for (const { id } of this.given.toTell.sources()) await this.imported(id);
  }

  /** Tells of looks at products that were kept and not told. */
  private async looks(shop: string): Promise<void> {
    const { toTell, people, store } = this.given;
    const looks = toTell.looks(shop);
    if (looks.length === 0) return;
    const byPerson = new Map<number, Happening[]>();
    for (const event of looks) {
      const id = event.email === undefined ? null : people.idOf(shop, event.email);
      if (id !== null) byPerson.set(id, [...(byPerson.get(id) ?? []), { kind: 'person', event }]);
    }
    const told = [...byPerson].map(([id, happenings]) => ({ id, happenings }));
    if (this.on(shop).length > 0)
      await this.enqueue(() => this.advance({ do: 'told', shop, told }));
    else await store.write(() => toTell.forgetLooks(shop));
  }

  /** Looks at the next people of a shop behind one; gives who was the last, null at the end. */
  private async some(shop: string, after: number): Promise<number | null> {
    const part = { after, most: A_PART };
    const asked = { do: 'everyone' as const, shop, happening: null, part };
    const answer = await this.enqueue(() => this.advance(asked));
    return answer?.last ?? null;
  }

  /** Looks at whoever is due, and starts what starts by the clock. */
  async tick(): Promise<void> {
    const at = this.given.now().getTime();
    const late = this.tickedAt === null || at - this.tickedAt > SLEPT;
    this.tickedAt = at;
    await this.times(at, late);
    const due = this.given.states.nextDue();
    if (due !== null && due <= at) await this.enqueue(() => this.advance({ do: 'due', late }));
    else await this.countCrowds();
    await this.given.sender.kick();
  }

  /** Counts whom nobody has counted yet, as where a look at many was cut off. */
  private async countCrowds(): Promise<void> {
    if (this.isBeginning || this.given.crowds.uncounted().length === 0) return;
    await this.enqueue(() => this.advance({ do: 'count' }));
    void this.given.sender.kick();
  }

  /** The clock was moved on: all that lies between happens at its own time. */
  async moveTo(at: number): Promise<void> {
    this.given.sender.clockMoved(this.tickedAt ?? 0, at);
    this.tickedAt = at;
    await this.times(at, false, true);
    await this.enqueue(() => this.advance({ do: 'due', late: false }, at));
    await this.given.sender.kick();
    await this.idle();
    await this.given.sender.kick();
  }

  /** Starts the occasions whose time has come, in order. */
  private async times(until: number, late: boolean, inOrder = false): Promise<void> {
    const { occasions, store } = this.given;
    for (let due = occasions.dueTimes(until); due.length > 0; due = occasions.dueTimes(until)) {
      const [first] = due;
      if (!first) return;
      const { occasion: id, next_at, wall } = first;
      const stored = occasions.find(id);
      const at = inOrder ? next_at : until;
      if (stored?.on_since && !(late && until - next_at > MISSED)) {
        if (inOrder) await this.enqueue(() => this.advance({ do: 'due', late: false }, next_at));
        const name = new Date(wall).toISOString().slice(0, 16);
        const happening: Happening = { kind: 'time', occasion: id, name, wall };
        await this.enqueue(() =>
          this.advance({ do: 'everyone', shop: stored.shop, happening }, at),
        );
      }
      await store.write(() => this.setNext(id, wall));
    }
  }

  /** Says when an occasion starts next after what clocks show; inside a transaction. */
  setNext(id: string, after: number | null): void {
    const { occasions, shops, now } = this.given;
    const stored = occasions.find(id);
    const start = stored ? occasions.live(stored)?.start : undefined;
    const zone = (stored && shops.find(stored.shop)?.timezone) ?? 'UTC';
    if (!stored?.on_since || start?.kind !== 'repeating') {
      occasions.dropTime(id);
      return;
    }
    const wall = nextWall(start, Math.max(after ?? 0, wallAt(now().getTime(), zone)));
    occasions.setTime(id, earliest(wall, start.clock, zone), wall);
  }

  /** New posts, lower prices and products that are back, as an import has brought them. */
  private async imported(sourceId: string): Promise<void> {
    const { sources, shops, store, toTell } = this.given;
    const source = sources.find(sourceId);
    if (!source) return;
    const of = source.shop === null ? shops.list().map(({ id }) => id) : [source.shop];
    let isTold = true;
    for (const shop of of) {
      const starts = this.startsOf(shop);
      if (source.target === 'feed')
        isTold = (await this.posts(shop, source.id, source.formula_name, starts)) && isTold;
      if (source.target === 'catalog')
        isTold = (await this.products(shop, source.id, starts)) && isTold;
    }
    // What could not be told is told after the next start: nobody gets anything twice for it.
    if (!isTold) return;
    await store.write(() => toTell.toldSource(sourceId, source.generation));
  }

  /** Tells of new posts; gives whether all were told. */
  private async posts(
    shop: string,
    source: string,
    feed: string,
    starts: Start[],
  ): Promise<boolean> {
    if (!starts.some((start) => start.kind === 'post_published' && start.feed === feed))
      return true;
    const posts = this.given.entries.untold(source);
    let isTold = true;
    for (const { key, since } of posts) {
      if (posts.filter((one) => one.since === since).length > MOST_POSTS) continue;
      const answer = await this.everyone(shop, { kind: 'post', feed, post: key });
      if (answer === null) isTold = false;
    }
    return isTold;
  }

  /** Tells of products that are cheaper, or there again; gives whether all were told. */
  private async products(shop: string, source: string, starts: Start[]): Promise<boolean> {
    const wanted = new Set(
      starts.flatMap((start) => (start.kind === 'product_changed' ? [start.change] : [])),
    );
    if (wanted.size === 0) return true;
    const changes = this.given.productChanges
      .untold(source)
      .flatMap((change) =>
        whatChanged(change).map((what) => ({ change: what, sku: change.sku, since: change.at })),
      )
      .filter(({ change }) => wanted.has(change))
      .slice(0, MOST_PRODUCTS);
    if (changes.length === 0) return true;
    return (await this.enqueue(() => this.advance({ do: 'products', shop, changes }))) !== null;
  }

  /** Looks at everybody where an occasion starts so: dates come, and segments are entered, by time going by alone. */
  async lookAt(kind: 'date_of_person' | 'segment_changed'): Promise<void> {
    for (const { id } of this.given.shops.list())
      if (this.startsOf(id).some((start) => start.kind === kind)) await this.everyone(id, null);
  }
}
