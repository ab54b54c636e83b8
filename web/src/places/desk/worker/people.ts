import { ENDPOINTS, type PeopleData } from '@carafe/contract';
import type { Fields } from '@carafe/core/formula';
import { reviveRecord, type PersonData } from '@carafe/core/record';
import type { ask as askServer } from '../../../app/ask';
import type { Shown } from './messages';

/** People are asked for so many at a time. */
const MOST_PEOPLE = 100;

/** Picks take a while: where the mail shows none they come only for who is looked at. */
export type Picks = 'all' | 'none';

/** The people of a shop that the desk knows, with the products that they came with. */
export class People {
  /** Products of lines and picks whose catalog was not sent, or not all of it. */
  readonly products: Fields[] = [];
  private readonly known = new Map<number, PersonData>();
  private readonly asked = new Set<number>();
  private readonly picked = new WeakSet<PersonData>();

  constructor(
    private readonly ask: typeof askServer,
    private readonly shop: string,
  ) {}

  get(person: number): PersonData | undefined {
    return this.known.get(person);
  }

  /** Whether somebody came with what is picked for them. */
  hasPicks(data: PersonData): boolean {
    return this.picked.has(data);
  }

  /**
   * Whom to ask for: whoever is shown, who is near, and some others, as far as they were not asked for. A few who
   * are near are waited for until they are more, but for the one who is shown.
   */
  wanted(shown: Shown | null, others: readonly number[]): number[] {
    const wanted = [...(shown ? [shown.person, ...shown.near] : []), ...others].filter(
      (id) => !this.asked.has(id),
    );
    const isUrgent = others.length > 0 || (shown !== null && wanted.includes(shown.person));
    if (!isUrgent && wanted.length < (shown?.near.length ?? 0) / 4) return [];
    return [...new Set(wanted)].slice(0, MOST_PEOPLE);
  }

  /** Loads some people, and keeps them unless they are no longer asked for. What fails may be asked for again. */
  async load(ids: readonly number[], picks: Picks): Promise<void> {
    ids.forEach((id) => this.asked.add(id));
    try {
      this.keep(await this.askFor(ids, picks), picks);
    } catch (error) {
      ids.forEach((id) => this.asked.delete(id));
      throw error;
    }
  }

  /** Loads what is picked for somebody who came without; false where they are gone, or asked for anew meanwhile. */
  async loadPicks(person: number): Promise<boolean> {
    const before = this.known.get(person);
    const got = await this.askFor([person], 'all');
    if (this.known.get(person) !== before) return false;
    this.keep(got, 'all');
    return this.known.get(person) !== before;
  }

  /** Those who changed are asked for anew: all who are known where nobody is named, or too many are. */
  forget(ids: readonly number[]): void {
    for (const id of ids.length === 0 ? [...this.asked] : ids) this.asked.delete(id);
  }

  /** Who came without their picks is asked for anew. */
  forgetUnpicked(): void {
    for (const [id, data] of this.known) if (!this.picked.has(data)) this.asked.delete(id);
  }

  private askFor(ids: readonly number[], picks: Picks): Promise<PeopleData> {
    const query = { ids: ids.join(','), picks };
    return this.ask(ENDPOINTS.somePeople, { params: { shop: this.shop }, query });
  }

  private keep({ people, products }: PeopleData, picks: Picks): void {
    for (const { id, data } of people) {
      this.known.set(id, data);
      if (picks === 'all') this.picked.add(data);
    }
    this.products.push(...products.map((product) => reviveRecord(product) as Fields));
  }
}

/** So many people that changed are named; of more, whoever is known may have. */
export const named = (ids: number[]): number[] => (ids.length > MOST_PEOPLE ? [] : ids);
