import type { PicksOfPerson, RuleFigures, StoredRule, TrialAnswer } from '@carafe/contract';
import { formulaProblem, NOT_IN_EXCLUSION, NOT_IN_POOL, type Rule } from '@carafe/core/recommend';
import { templateSites } from '@carafe/core/site';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { takenBack, type DeletedRepository } from '../deleted/repository';
import { Refusal } from '../http/errors';
import { refuseStale, versionOf } from '../http/version';
import type { Jobs } from '../jobs/jobs';
import { askersOf, type AskerParts } from '../occasions/askers';
import type { LiveUpdates } from '../live/liveUpdates';
import { usersAmong, type User, type UserParts } from '../templates/users';
import { Changes } from './changes';
import type { PickJobs } from './picks';
import type { ReadyTask } from './ready';
import { freeName, lackedBy, type CopyParts } from './copy';
import type { RuleRow, RulesRepository } from './repository';
import type { TasteRepository } from './tasteRepository';
import type { TrialJobs } from './trials';

/** A rule as it is kept once it is deleted. */
type Deleted = Rule | Pick<RuleRow, 'rule' | 'published'>;

interface Given extends UserParts, AskerParts, CopyParts {
  store: Pick<Store, 'write'>;
  rules: RulesRepository;
  deleted: DeletedRepository;
  tastes: Pick<TasteRepository, 'madeAt'>;
  jobs: Jobs<PickJobs & TrialJobs>;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  newId: () => string;
}

/** People are counted so many at a time. */
const FIGURES_PAGE = 500;
/** What people like is reckoned anew after so long. */
const TASTE_MS = 30 * 60_000;

/** Tells whether a formula asks for the picks of a rule. */
function usesPicks(name: string): (formula: string) => boolean {
  const named = new RegExp(`\\bpicks\\.${name}(?![\\p{L}\\p{Nd}_])`, 'u');
  return (formula) => named.test(formula);
}

/** Recommendation rules, and what they pick. */
export class RulesService {
  private readonly changes: Changes;
  /** Shops whose taste is reckoned now. */
  private readonly tasting = new Map<string, Promise<unknown>>();

  constructor(private readonly given: Given) {
    this.changes = new Changes(given.updates);
  }

  /** The templates that show what a rule picks. */
  private usersOf(shop: string, name: string): User[] {
    const uses = usesPicks(name);
    return usersAmong(this.given, shop, (template) =>
      templateSites(template).some(({ source }) => uses(source)),
    );
  }

  private told({ id, shop, rule, published }: RuleRow): StoredRule {
    const used_by = this.usersOf(shop, rule.name);
    return { id, version: versionOf(rule), rule, published, used_by };
  }

  list(shop: string): StoredRule[] {
    return this.given.rules.list(shop).map((row) => this.told(row));
  }

  private refuseTaken(shop: string, { name }: Rule, id: string | null): void {
    const other = this.given.rules.named(shop, name);
    if (other && other.id !== id)
      throw new Refusal(409, `There is a rule “${name}” already. Choose another name.`);
  }

  private refuseUnsound({ pool, exclude }: Rule): void {
    const wrong = (formula: string | undefined, without: readonly string[]) =>
      formula?.trim() ? formulaProblem(formula, without) : null;
    const inPool = wrong(pool, NOT_IN_POOL);
    if (inPool) throw new Refusal(422, `The pool: ${inPool}`);
    const inExclusion = wrong(exclude.where, NOT_IN_EXCLUSION);
    if (inExclusion) throw new Refusal(422, `What is left out: ${inExclusion}`);
  }

  private refuseUsed(shop: string, { name, label }: Rule, done: string): void {
    const [first] = [
      ...this.usersOf(shop, name).map((user) => user.name),
      ...askersOf(this.given, shop, usesPicks(name)),
    ];
    if (first !== undefined)
      throw new Refusal(
        409,
        `“${label}” is used in “${first}”, so it cannot be ${done}. Remove picks.${name} there first.`,
      );
  }

  private found(id: string) {
    const found = this.given.rules.find(id);
    if (!found) throw new Refusal(404, 'There is no such rule; perhaps it was deleted.');
    return found;
  }

  async add(shop: string, rule: Rule): Promise<StoredRule> {
    const { store, rules, newId, now } = this.given;
    const id = newId();
    this.refuseUnsound(rule);
    await store.write(() => {
      this.refuseTaken(shop, rule, null);
      rules.insert(id, shop, rule, now().toISOString());
    });
    this.changed(shop);
    return this.told({ id, shop, rule, published: rule });
  }

  /** Changes the draft. What a rule is called is no matter of versions: it holds for both. */
  async change(id: string, version: string, rule: Rule): Promise<StoredRule> {
    const { store, rules, now } = this.given;
    this.refuseUnsound(rule);
    const row = await store.write(() => {
      const found = this.found(id);
      refuseStale(found.rule, version, 'This rule');
      this.refuseTaken(found.shop, rule, id);
      if (found.rule.name !== rule.name)
        this.refuseUsed(found.shop, found.rule, 'renamed in formulas');
      const { name, label } = rule;
      const published = { ...found.published, name, label };
      rules.update(id, { rule, published }, now().toISOString());
      return { ...found, rule, published };
    });
    this.changed(row.shop);
    return this.told(row);
  }

  /** Lets emails use the draft. */
  async publish(id: string, version: string): Promise<StoredRule> {
    const { store, rules, now } = this.given;
    const row = await store.write(() => {
      const found = this.found(id);
      refuseStale(found.rule, version, 'This rule');
      const { rule } = found;
      rules.update(id, { rule, published: rule }, now().toISOString());
      return { ...found, published: rule };
    });
    this.changed(row.shop);
    return this.told(row);
  }

  /** Copies the draft of a rule to a shop, under a name that is free there; says what it names and the shop lacks. */
  async copy(id: string, shop: string): Promise<{ rule: StoredRule; lacks: string[] }> {
    const { rule } = this.found(id);
    const taken = new Set(this.given.rules.list(shop).map(({ rule: { name } }) => name));
    const copy = { ...rule, ...freeName(rule, taken) };
    return { rule: await this.add(shop, copy), lacks: lackedBy(this.given, shop, copy) };
  }

  async remove(id: string): Promise<void> {
    const { store, rules, deleted, now } = this.given;
    const { shop } = await store.write(() => {
      const found = this.found(id);
      this.refuseUsed(found.shop, found.rule, 'deleted');
      const { shop, rule, published } = found;
      const document = { rule, published };
      deleted.keep('rule', { id, shop, name: rule.label, document }, now().toISOString());
      rules.remove(id);
      return found;
    });
    this.changed(shop);
  }

  /** Restores a rule, by the number of its deletion; gives what it is called. */
  async restore(number: string): Promise<string> {
    const { store, rules, deleted, now } = this.given;
    const { shop, name } = await store.write(() => {
      const { id, shop, name, document } = takenBack(deleted.take<Deleted>('rule', number));
      // What was deleted before rules had versions is the rule itself.
      const { rule, published } =
        'rule' in document ? document : { rule: document, published: document };
      this.refuseTaken(shop ?? '', rule, null);
      rules.insert(id, shop ?? '', rule, now().toISOString(), published);
      return { shop: shop ?? '', name };
    });
    this.changed(shop);
    return name;
  }

  /** Whatever shows picks shows others now. */
  private changed(shop: string): void {
    this.given.updates.publish({ type: 'shared', shop });
  }

  /** What work on the picks of a shop is told, so that it counts what happened until now; tastes are not reckoned where nothing asks for picks. */
  task(shop: string, asksPicks = true): ReadyTask {
    if (asksPicks) this.tasteSoon(shop);
    return this.changes.of(shop, this.given.now());
  }

  /** Lets it be reckoned what people like where a rule asks for it and it is not known, or not lately. */
  private tasteSoon(shop: string): void {
    const { rules, tastes, jobs, now, log } = this.given;
    const asks = rules
      .list(shop)
      .some(({ rule, published }) =>
        [...rule.steps, ...published.steps].some(({ step }) => step.kind === 'same_taste'),
      );
    if (!asks || this.tasting.has(shop)) return;
    const madeAt = tastes.madeAt(shop);
    if (madeAt !== null && now().getTime() - Date.parse(madeAt) < TASTE_MS) return;
    const made = jobs
      .run('taste', { shop, now: now().toISOString() })
      .then(() => this.changed(shop))
      .catch((error: unknown) => log.error(error))
      .finally(() => this.tasting.delete(shop));
    this.tasting.set(shop, made);
  }

  /** When what people like is known, as far as it is asked for. */
  async tasted(shop: string): Promise<void> {
    this.tasteSoon(shop);
    await this.tasting.get(shop);
  }

  /** What all rules of a shop pick for some people, by their ids; nothing where there is no rule. */
  async ofMany(shop: string, ids: readonly number[]) {
    if (this.given.rules.list(shop).length === 0) return {};
    return this.given.jobs.run('picksOfMany', { ...this.task(shop), ids: [...ids] });
  }

  /** What a rule of a shop, by its name, picks for somebody. */
  async picks(
    shop: string,
    name: string,
    person: string,
    version: 'published' | 'draft' = 'published',
  ): Promise<PicksOfPerson> {
    const { rules, jobs } = this.given;
    const found = rules.named(shop, name);
    if (!found) throw new Refusal(404, `There is no rule “${name}” in this shop.`);
    const rule = version === 'draft' ? found.rule : found.published;
    const asked = { ...this.task(shop), rule, person: person.toLowerCase() };
    return this.sure(shop, await jobs.run('picks', asked));
  }

  /** The same for a rule of any shop. */
  async picksOfAny(name: string, person: string, shop?: string): Promise<PicksOfPerson> {
    const all = this.given.rules
      .everywhere(name)
      .filter((one) => shop === undefined || one.shop === shop);
    const [first, second] = all;
    if (!first) throw new Refusal(404, `There is no rule “${name}”.`);
    if (second)
      throw new Refusal(
        400,
        `Several shops have a rule “${name}”: say which with ?shop=${first.shop}.`,
      );
    return this.picks(first.shop, name, person);
  }

  private sure<T>(shop: string, answer: T | null): T {
    if (answer === null) throw new Refusal(404, `There is no shop “${shop}”.`);
    return answer;
  }

  /** What a rule comes to for some of the people of its shop, those after an id. */
  async figures(id: string, after: number): Promise<RuleFigures> {
    const { shop, rule } = this.found(id);
    const task = { ...this.task(shop), rule, after, most: FIGURES_PAGE };
    return this.sure(shop, await this.given.jobs.run('ruleFigures', task));
  }

  /** Tries a rule on the past, beside another where one is given. */
  async tried(
    id: string,
    { against, tune = false }: { against?: string | undefined; tune?: boolean | undefined },
    signal: AbortSignal,
  ): Promise<TrialAnswer> {
    const { shop, rule } = this.found(id);
    if (tune && !(rule.mixed && rule.steps.length > 1))
      throw new Refusal(400, 'Only mixed steps have weights. Set the rule to mix its steps first.');
    const rules = [rule, ...(against === undefined ? [] : [this.found(against).rule])];
    const { jobs, updates } = this.given;
    const answer = await jobs.run(
      'trial',
      { ...this.task(shop), rules, tune },
      { signal, progress: (done) => updates.publish({ type: 'trial', rule: id, done }) },
    );
    return this.sure(shop, answer);
  }
}
