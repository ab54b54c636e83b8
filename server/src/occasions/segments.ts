import type { SegmentCounted } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import type { Segment, ShopRules } from '@carafe/core/occasion';
import type { Store } from '../database/store';
import { takenBack, type DeletedRepository } from '../deleted/repository';
import { Refusal } from '../http/errors';
import { refuseStale, versionOf } from '../http/version';
import { occasionsThat } from './askers';
import type { LiveUpdates } from '../live/liveUpdates';
import type { RulesRepository } from '../recommend/repository';
import type { OccasionsRepository } from './repository';
import type { SegmentsRepository, ShopRulesRepository } from './segmentsRepository';

interface Given {
  store: Pick<Store, 'write'>;
  occasions: Pick<OccasionsRepository, 'list' | 'live'>;
  segments: SegmentsRepository;
  deleted: DeletedRepository;
  shopRules: ShopRulesRepository;
  rules: Pick<RulesRepository, 'list'>;
  updates: LiveUpdates;
  now: () => Date;
}

/** Named conditions over people, and what holds for all occasions of a shop. */
export class SegmentsService {
  constructor(private readonly given: Given) {}

  private publish(shop: string): void {
    this.given.updates.publish({ type: 'occasions', shop });
  }

  async changeRules(shop: string, version: string, rules: ShopRules): Promise<ShopRules> {
    const { store, shopRules } = this.given;
    await store.write(() => {
      refuseStale(shopRules.get(shop), version, 'What applies to all occasions');
      shopRules.put(shop, rules);
    });
    this.publish(shop);
    return rules;
  }

  /** The occasions and rules that ask for a segment. */
  private usersOf(shop: string, name: string): string[] {
    const { rules } = this.given;
    const asking = occasionsThat(
      this.given,
      shop,
      ({ whom, start }) =>
        whom.segment === name ||
        whom.without === name ||
        (start.kind === 'segment_changed' && start.segment === name),
    );
    const picking = rules
      .list(shop)
      .filter(({ rule, published }) =>
        [...rule.steps, ...published.steps].some(
          ({ step }) =>
            step.kind === 'best_sellers' && step.among === 'segment' && step.segment === name,
        ),
      )
      .map(({ rule }) => rule.label);
    return [...asking, ...picking];
  }

  list(shop: string): SegmentCounted[] {
    return this.given.segments.list(shop).map((segment) => this.counted(shop, segment));
  }

  private counted(shop: string, segment: Segment): SegmentCounted {
    const used_by = this.usersOf(shop, segment.name);
    return { ...segment, version: versionOf(segment), used_by };
  }

  private refuseUnsound(shop: string, { name, formula }: Segment, before: string | null): void {
    const parsed = parsedFormula(formula);
    if (!parsed.ok) throw new Refusal(422, `The condition cannot be read: ${parsed.error.message}`);
    const isTaken = this.given.segments.list(shop).some((one) => one.name === name);
    if (name !== before && isTaken)
      throw new Refusal(409, `There is a segment “${name}” already. Choose another name.`);
  }

  private refuseUsed(shop: string, name: string, done: string): void {
    const [first] = this.usersOf(shop, name);
    if (first !== undefined)
      throw new Refusal(409, `“${name}” is used by “${first}”, so it cannot be ${done}.`);
  }

  async add(shop: string, segment: Segment): Promise<SegmentCounted> {
    const { store, segments, now } = this.given;
    await store.write(() => {
      this.refuseUnsound(shop, segment, null);
      segments.insert(shop, segment, now().toISOString());
    });
    this.publish(shop);
    return this.counted(shop, segment);
  }

  async change(
    shop: string,
    name: string,
    version: string,
    segment: Segment,
  ): Promise<SegmentCounted> {
    const { store, segments, now } = this.given;
    await store.write(() => {
      const before = segments.list(shop).find((one) => one.name === name);
      if (!before) throw new Refusal(404, `The segment “${name}” no longer exists.`);
      refuseStale(before, version, 'This segment');
      this.refuseUnsound(shop, segment, name);
      if (segment.name !== name) this.refuseUsed(shop, name, 'renamed');
      segments.update(shop, name, segment, now().toISOString());
    });
    this.publish(shop);
    return this.counted(shop, segment);
  }

  async remove(shop: string, name: string): Promise<void> {
    const { store, segments, deleted, now } = this.given;
    await store.write(() => {
      this.refuseUsed(shop, name, 'deleted');
      const document = segments.list(shop).find((one) => one.name === name);
      if (!document) throw new Refusal(404, `The segment “${name}” no longer exists.`);
      deleted.keep('segment', { id: name, shop, name, document }, now().toISOString());
      segments.remove(shop, name);
    });
    this.publish(shop);
  }

  /** Restores a segment, by the number of its deletion; gives its name. */
  async restore(number: string): Promise<string> {
    const { store, segments, deleted, now } = this.given;
    const { shop, name } = await store.write(() => {
      const kept = takenBack(deleted.take<Segment>('segment', number));
      const shop = kept.shop ?? '';
      this.refuseUnsound(shop, kept.document, null);
      segments.insert(shop, kept.document, now().toISOString());
      return { shop, name: kept.name };
    });
    this.publish(shop);
    return name;
  }
}
