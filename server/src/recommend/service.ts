import type { PicksOfPerson, StoredRule } from '@carafe/contract';
import type { Rule } from '@carafe/core/recommend';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { PickJobs } from './picks';
import type { RulesRepository } from './repository';

interface Given {
  store: Pick<Store, 'write'>;
  rules: RulesRepository;
  jobs: Jobs<PickJobs>;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
}

/** Recommendation rules, and what they pick. */
export class RulesService {
  private changes = 0;

  constructor(private readonly given: Given) {
    given.updates.listen(({ update: { type } }) => {
      if (type === 'people' || type === 'shared') this.changes++;
    });
  }

  list(shop: string): StoredRule[] {
    return this.given.rules.list(shop).map(({ id, rule }) => ({ id, rule }));
  }

  private refuseTaken(shop: string, { name }: Rule, id: string | null): void {
    const other = this.given.rules.named(shop, name);
    if (other && other.id !== id)
      throw new Refusal(409, `There is a rule “${name}” already. Choose another name.`);
  }

  private found(id: string) {
    const found = this.given.rules.find(id);
    if (!found) throw new Refusal(404, 'There is no such rule; perhaps it was deleted.');
    return found;
  }

  async add(shop: string, rule: Rule): Promise<StoredRule> {
    const { store, rules, newId, now } = this.given;
    const id = newId();
    await store.write(() => {
      this.refuseTaken(shop, rule, null);
      rules.insert(id, shop, rule, now().toISOString());
    });
    this.changed(shop);
    return { id, rule };
  }

  async change(id: string, rule: Rule): Promise<StoredRule> {
    const { store, rules, now } = this.given;
    const { shop } = this.found(id);
    await store.write(() => {
      this.refuseTaken(shop, rule, id);
      rules.update(id, rule, now().toISOString());
    });
    this.changed(shop);
    return { id, rule };
  }

  async remove(id: string): Promise<void> {
    const { shop } = this.found(id);
    await this.given.store.write(() => this.given.rules.remove(id));
    this.changed(shop);
  }

  /** Whatever shows picks shows others now. */
  private changed(shop: string): void {
    this.given.updates.publish({ type: 'shared', shop });
  }

  private turn(): { now: string; turn: string } {
    const now = this.given.now().toISOString();
    return { now, turn: `${this.changes} ${now.slice(0, 10)}` };
  }

  /** What all rules of a shop pick for some people, by their ids; nothing where there is no rule. */
  async ofMany(shop: string, ids: readonly number[]) {
    if (this.given.rules.list(shop).length === 0) return {};
    return this.given.jobs.run('picksOfMany', { shop, ids: [...ids], ...this.turn() });
  }

  /** What a rule of a shop, by its name, picks for somebody. */
  async picks(shop: string, name: string, person: string): Promise<PicksOfPerson> {
    const { rules, jobs } = this.given;
    const found = rules.named(shop, name);
    if (!found) throw new Refusal(404, `There is no rule “${name}” in this shop.`);
    const asked = { shop, rule: found.rule, person: person.toLowerCase(), ...this.turn() };
    const picked = await jobs.run('picks', asked);
    if (!picked) throw new Refusal(404, `There is no shop “${shop}”.`);
    return picked;
  }
}
