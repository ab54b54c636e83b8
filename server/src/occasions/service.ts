import type { AnswerOf, ENDPOINTS, StoredOccasion } from '@carafe/contract';
import { leftoverIn } from '@carafe/core/checks';
import {
  allSteps,
  nextWall,
  presets,
  problemsOf,
  wallAt,
  wallOf,
  whomAsks,
  type Known,
  type Occasion,
} from '@carafe/core/occasion';
import { STOP_REASONS } from '@carafe/core/sending';
import type { Template } from '@carafe/core/template';
import type { Store } from '../database/store';
import { unlessDamaged } from '../database/storedDocument';
import { Refusal } from '../http/errors';
import { versionOf } from '../http/version';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { AudienceJobs } from '../people/audience';
import type { OutboxRepository } from '../outbox/repository';
import type { Sender } from '../outbox/sender';
import type { PeopleRepository } from '../people/repository';
import type { ShopsRepository } from '../shops/repository';
import type { SourcesRepository } from '../sources/repository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';
import type { CountJobs, OccasionCounts } from './counts';
import type { CrowdsRepository } from './crowdsRepository';
import { presetTemplates } from './presetTemplates';
import type { OccasionsRepository, StoredDraft } from './repository';
import type { Runner } from './runner';
import type { SegmentsRepository, ShopRulesRepository } from './segmentsRepository';
import { sendingOf } from './sending';
import { overAt, putOn } from './switching';

interface Given {
  store: Pick<Store, 'write' | 'writeInSlices'>;
  occasions: OccasionsRepository;
  outbox: Pick<OutboxRepository, 'stopOf' | 'keepOf' | 'approveCrowd'>;
  crowds: CrowdsRepository;
  sender: Pick<Sender, 'kick'>;
  segments: Pick<SegmentsRepository, 'list'>;
  shopRules: Pick<ShopRulesRepository, 'get'>;
  templates: Pick<TemplatesRepository, 'list' | 'find'>;
  published: Pick<PublishedRepository, 'last' | 'document'>;
  sources: Pick<SourcesRepository, 'feeding'>;
  shops: Pick<ShopsRepository, 'find'>;
  people: Pick<PeopleRepository, 'idOf'>;
  jobs: Jobs<AudienceJobs & CountJobs>;
  runner: Runner;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
}

const iso = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());

/** When templates of a shop go out. */
export class OccasionsService {
  private readonly left = new Map<string, string | null>();

  constructor(private readonly given: Given) {}

  private found(id: string): StoredDraft {
    const found = this.given.occasions.find(id);
    if (!found) throw new Refusal(404, 'There is no such occasion; perhaps it was deleted.');
    return found;
  }

  /** What stood in a published template from the beginning; each version is read once. */
  private leftIn(id: string): string | null {
    const { published } = this.given;
    const number = published.last(id);
    const key = `${id} ${number}`;
    let left = this.left.get(key);
    if (left === undefined) {
      const live = unlessDamaged(() => published.document(id, number));
      left = live ? leftoverIn(live) : null;
      this.left.set(key, left);
    }
    return left;
  }

  private known(shop: string, but: string | null): Known {
    const { templates, published, segments, sources, occasions } = this.given;
    const own = templates.list().filter(({ template }) => (template as Template).shop === shop);
    return {
      templates: new Map(own.map(({ id, template }) => [id, (template as Template).name])),
      published: new Set(own.filter(({ id }) => published.last(id) > 0).map(({ id }) => id)),
      unwritten: new Map(
        own.flatMap(({ id }) => {
          const left = this.leftIn(id);
          return left === null ? [] : [[id, left] as const];
        }),
      ),
      segments: new Set(segments.list(shop).map(({ name }) => name)),
      feeds: new Set(sources.feeding('feed', shop).map(({ formula_name }) => formula_name)),
      others: occasions
        .list(shop)
        .filter(({ id, on_since }) => id !== but && on_since !== null)
        .map(({ occasion }) => occasion),
    };
  }

  private async told(stored: StoredDraft): Promise<StoredOccasion> {
    const counts = await this.given.jobs.run('occasionCounts', { ids: [stored.id] });
    return this.withCounts(stored, counts[stored.id]);
  }

  private withCounts(stored: StoredDraft, counts?: OccasionCounts): StoredOccasion {
    const { occasions } = this.given;
    const { id, shop, occasion, version, published, on_since } = stored;
    const { waiting = {}, mails = [] } = counts ?? {};
    const live = occasions.live(stored);
    const time = occasions.time(id);
    const nexts = [counts?.next ?? null, time?.next_at ?? null].filter((one) => one !== null);
    return {
      ...{ id, occasion, version, published, on_since },
      differs: live === null || JSON.stringify(live) !== JSON.stringify(occasion),
      problems: problemsOf(occasion, this.known(shop, id)),
      inside: counts?.inside ?? 0,
      armed: counts?.armed ?? 0,
      next: iso(nexts.length === 0 ? null : Math.min(...nexts)),
      steps: allSteps(occasion.steps).map((step) => ({
        ...{ step: step.id, waiting: waiting[step.id] ?? 0 },
        mails: Object.fromEntries(
          mails.filter((one) => one.step === step.id).map(({ state, count }) => [state, count]),
        ),
      })),
    };
  }

  async list(shop: string): Promise<AnswerOf<(typeof ENDPOINTS)['listOccasions']>> {
    const { occasions, shopRules, jobs } = this.given;
    const all = occasions.list(shop);
    const counts = await jobs.run('occasionCounts', { ids: all.map(({ id }) => id) });
    const rules = shopRules.get(shop);
    return {
      occasions: all.map((stored) => this.withCounts(stored, counts[stored.id])),
      rules,
      rules_version: versionOf(rules),
    };
  }

  /** The shipped occasions, with those templates of the shop whose names fit. */
  presets(shop: string): Occasion[] {
    const { templates } = this.given;
    const own = templates.list().filter(({ template }) => (template as Template).shop === shop);
    return presets(presetTemplates(own));
  }

  private publish(shop: string): void {
    this.given.updates.publish({ type: 'occasions', shop });
  }

  async add(shop: string, occasion: Occasion): Promise<StoredOccasion> {
    const { store, occasions, newId, now } = this.given;
    const id = newId();
    await store.write(() => occasions.insert(id, shop, occasion, now().toISOString()));
    this.publish(shop);
    return this.told(this.found(id));
  }

  async change(id: string, version: number, occasion: Occasion): Promise<StoredOccasion> {
    const { store, occasions, now } = this.given;
    const { shop } = await store.write(() => {
      const found = this.found(id);
      if (found.version !== version)
        throw new Refusal(
          409,
          'The occasion was changed elsewhere in the meantime. Load it again.',
        );
      occasions.save(id, occasion, now().toISOString());
      return found;
    });
    this.publish(shop);
    return this.told(this.found(id));
  }

  async remove(id: string): Promise<void> {
    const { store, occasions, crowds, now } = this.given;
    const { shop } = await store.write(() => {
      const found = this.found(id);
      const at = now().toISOString();
      occasions.dropTime(id);
      if (found.on_since !== null) occasions.switchOff(id, at);
      occasions.remove(id, at);
      crowds.drop(id);
      return found;
    });
    await this.stopWaiting(id, 'The occasion was deleted.');
    this.publish(shop);
  }

  /** Restores an occasion, switched off; gives its name. */
  async restore(id: string): Promise<string> {
    const { store, occasions } = this.given;
    const { shop, occasion } = await store.write(() => {
      occasions.restore(id);
      return this.found(id);
    });
    this.publish(shop);
    return occasion.name;
  }

  /** Stops what an occasion has not sent yet. Nothing of it leaves meanwhile: that it is off is asked before each email. */
  private async stopWaiting(id: string, reason: string): Promise<void> {
    const { store, outbox, updates } = this.given;
    await store.writeInSlices((size) => outbox.stopOf(id, reason, size) === size);
    updates.publish({ type: 'outbox' });
  }

  /** What publishing the draft would mean. */
  async beforePublishing(id: string) {
    const { shops, segments, people, jobs, now } = this.given;
    const { shop, occasion } = this.found(id);
    const counts = await jobs.run('occasionCounts', { ids: [id] });
    const inside = counts[id]?.versions ?? [];
    const { start } = occasion;
    if (start.kind !== 'at_time' && start.kind !== 'repeating') return { inside, audience: null };
    const whom = whomAsks(occasion.whom, segments.list(shop));
    const told = { shop, formula: 'person.consent', whom, now: now().toISOString() };
    const counted = await jobs.run('audience', told);
    if (!counted) throw new Refusal(422, 'It takes too long to count who gets this.');
    const zone = shops.find(shop)?.timezone ?? 'UTC';
    const wall =
      start.kind === 'at_time'
        ? wallOf(start.time)
        : nextWall(start, wallAt(now().getTime(), zone));
    return {
      inside,
      audience: {
        people: counted.of,
        agreed: counted.holds,
        strangers: (occasion.whom.addresses ?? []).filter(
          (email) => people.idOf(shop, email) === null,
        ).length,
        wall: new Date(wall).toISOString().slice(0, 16),
        clock: start.clock,
      },
    };
  }

  /** What the draft sends to its people first. */
  beforeSending(id: string): AnswerOf<(typeof ENDPOINTS)['beforeSending']> {
    this.found(id);
    const sending = sendingOf(this.given, id);
    if (!sending) return { sending: null };
    const { template_id, template } = sending;
    return { sending: { template_id, template } };
  }

  /** Publishes the draft at a version and switches it on. Whoever is inside goes by theirs to the end. */
  async switchOn(id: string, version: number): Promise<StoredOccasion> {
    const { store, occasions, shops, now, runner } = this.given;
    const draft = this.found(id);
    const { shop, occasion } = draft;
    const [problem, ...more] = problemsOf(occasion, this.known(shop, id)).filter(
      ({ severity }) => severity === 'error',
    );
    if (problem)
      throw new Refusal(
        422,
        `This cannot be switched on yet. ${problem.message}${more.length > 0 ? ` And ${more.length} more.` : ''}`,
      );
    const at = now();
    const zone = shops.find(shop)?.timezone ?? 'UTC';
    const over = overAt(occasion.start, zone);
    if (over !== null && over < at.getTime())
      throw new Refusal(422, 'Its time has passed. Choose a later one.');
    await store.write(() => {
      const found = this.found(id);
      if (found.version !== version)
        throw new Refusal(
          409,
          'The occasion was changed elsewhere in the meantime. Check it again.',
        );
      putOn({ occasions, setNext: (of) => runner.setNext(of, null) }, found, occasion, at, zone);
    });
    this.publish(shop);
    // Dates and segments of people who do nothing today are known by looking at everybody once.
    void runner.everyone(shop, null);
    return this.told(this.found(id));
  }

  /** Switches off. What waits in the outbox is stopped, or goes all the same. */
  async switchOff(id: string, waiting: 'stop' | 'send'): Promise<StoredOccasion> {
    const { store, occasions, outbox, crowds, now, updates } = this.given;
    this.found(id);
    if (waiting === 'send') await store.writeInSlices((size) => outbox.keepOf(id, size) === size);
    const { shop } = await store.write(() => {
      const found = this.found(id);
      if (found.on_since !== null) occasions.switchOff(id, now().toISOString());
      occasions.dropTime(id);
      if (waiting === 'stop') crowds.drop(id);
      return found;
    });
    if (waiting === 'stop') await this.stopWaiting(id, `${STOP_REASONS.switched_off}.`);
    this.publish(shop);
    updates.publish({ type: 'outbox' });
    return this.told(this.found(id));
  }

  /** Answers for a crowd: its emails go, or they are stopped and the occasion is switched off. */
  async answerCrowd(id: string, answer: 'send' | 'stop'): Promise<StoredOccasion> {
    const { store, outbox, crowds, sender, now, updates } = this.given;
    const { shop } = this.found(id);
    if (answer === 'stop') return this.switchOff(id, 'stop');
    const at = now().getTime();
    if (!(await store.write(() => crowds.answered(id, at))))
      throw new Refusal(409, 'This was already answered.');
    await store.writeInSlices((size) => outbox.approveCrowd(id, at, size) === size);
    this.publish(shop);
    updates.publish({ type: 'outbox' });
    void sender.kick();
    return this.told(this.found(id));
  }

  async byHand(id: string, people: readonly number[], name: string) {
    const { shop, occasion, on_since } = this.found(id);
    if (on_since === null) throw new Refusal(409, 'This occasion is off. Switch it on first.');
    const done = await this.given.runner.byHand(shop, id, people, name);
    if (!done)
      throw new Refusal(
        500,
        `“${occasion.name}” could not be started; nothing was sent. The log says more.`,
      );
    return { entered: done.entered, mails: done.mails };
  }
}
