import type { CatalogNeed, Shop, StoredShop } from '@carafe/contract';
import { assembleRecord, productIndex, type PersonData } from '@carafe/core/record';
import { counted } from '@carafe/core/words';
import type { Store } from '../database/store';
import { LruCache } from '../database/lruCache';
import type { EventsRepository } from '../events/repository';
import { Refusal } from '../http/errors';
import { refuseStale, versionOf } from '../http/version';
import type { Job, Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ErasingRepository } from '../people/erasingRepository';
import type { PeopleRepository } from '../people/repository';
import type { ShopsRepository } from './repository';
import { productsOf, sharedDataOf, type SharedParts, type SharedText } from './sharedData';

export interface SharedJobs {
  sharedData: Job<{ shop: string; now: string; needs: CatalogNeed[] | null }, SharedText | null>;
}

interface Given {
  store: Pick<Store, 'write'>;
  shops: ShopsRepository;
  people: PeopleRepository;
  events: Pick<EventsRepository, 'of'>;
  erasing: ErasingRepository;
  shared: SharedParts;
  jobs: Jobs<SharedJobs>;
  updates: LiveUpdates;
  now: () => Date;
  /** The address of this server, where it says pictures are unless it is told better. */
  self: () => string;
}

const withVersion = (shop: Shop): StoredShop => ({ ...shop, version: versionOf(shop) });

/** Shops, and what their recipients read. */
export class ShopsService {
  private readonly sharedTexts = new LruCache<SharedText | null>();
  private changes = 0;

  constructor(private readonly given: Given) {
    given.updates.listen(({ update: { type } }) => {
      if (type === 'shared') this.changes++;
    });
  }

  /** The id of a shop that is there. */
  known(id: string): string {
    if (!this.given.shops.find(id)) throw new Refusal(404, `There is no shop “${id}”.`);
    return id;
  }

  list(): StoredShop[] {
    return this.given.shops.list().map(withVersion);
  }

  async create(shop: Shop): Promise<StoredShop> {
    const { store, shops, self } = this.given;
    return store.write(() => {
      if (shops.find(shop.id)) throw new Refusal(409, `There is already a shop “${shop.id}”.`);
      const made = { ...shop, pictures: shop.pictures || `${self()}/pictures` };
      shops.insert(made);
      return withVersion(made);
    });
  }

  /** Everything but the id may change. What stands in carts and orders already keeps its currency. */
  async change(id: string, version: string, shop: Shop): Promise<StoredShop> {
    const { store, shops, self, updates } = this.given;
    if (this.known(id) !== shop.id)
      throw new Refusal(
        400,
        'The short name of a shop cannot be changed, because templates and events use it.',
      );
    const changed = { ...shop, pictures: shop.pictures || `${self()}/pictures` };
    await store.write(() => {
      refuseStale(shops.find(id), version, `“${shop.name}”`);
      shops.update(changed);
    });
    updates.publish({ type: 'shared', shop: id });
    return withVersion(changed);
  }

  /** What all recipients of a shop share at an instant (ISO 8601), now if none is given, as JSON; put together beside the server, and kept. */
  async sharedText(id: string, needs: CatalogNeed[] | null, asOf?: string): Promise<SharedText> {
    const { jobs, now } = this.given;
    const shop = this.known(id);
    const at = (asOf === undefined ? now() : new Date(asOf)).toISOString();
    const question = `${shop} ${this.changes} ${at.slice(0, 13)} ${JSON.stringify(needs)}`;
    const found = await this.sharedTexts.get(question, () =>
      jobs.run('sharedData', { shop, now: at, needs }),
    );
    if (!found) throw new Refusal(404, `There is no shop “${id}”.`);
    return found;
  }

  /** All that is stored of some people and is picked for them, with the products of both. */
  somePeople(
    id: string,
    ids: readonly number[],
    picks: Record<number, NonNullable<PersonData['picks']>> = {},
  ) {
    const shop = this.known(id);
    const people = this.given.people.data(shop, ids).map(({ id: person, data }) => {
      const own = picks[person];
      return { id: person, data: own ? { ...data, picks: { ...own, ...data.picks } } : data };
    });
    return { people, products: productsOf(this.given.shared, shop, people) };
  }

  /** Erases a person, in one go. What waits for them in the outbox is not sent. */
  async erase(id: string, given: string): Promise<{ deleted: string[]; kept: string[] }> {
    const { store, erasing, updates } = this.given;
    const shop = this.known(id);
    const email = given.trim().toLowerCase();
    const erased = await store.write(() => erasing.erase(shop, email));
    if (!erased) throw new Refusal(404, `Nobody here has the address “${given}”.`);
    updates.publish({ type: 'people', shop, ids: [] });
    updates.publish({ type: 'outbox' });
    const { events, rows, emails, isRefused } = erased;
    return {
      deleted: [
        'The person with all fields, carts and orders, and what occasions knew of them.',
        `${counted(events, 'event')} of the shop, and ${counted(rows, 'row')} of files and rows that were typed in.`,
        `Address, subject and contents of ${counted(emails, 'email')} in the outbox; what was waiting is not sent.`,
      ],
      kept: [
        ...(emails > 0
          ? [
              'That these emails were created, by which occasion and when, and what became of them, without the address.',
              'The bytes of these emails in packed storage, out of reach, until the emails packed with them are forgotten.',
            ]
          : []),
        ...(isRefused
          ? ['That the mail server refused this address, so that no shop writes to it again.']
          : []),
        'Files that were imported, as your shop sent them: import them again without this person, or they come back.',
      ],
    };
  }

  /** Everything that a template would see of one person, with the events that made it. */
  async person(
    id: string,
    given: string,
    picksOf: (shop: string, ids: number[]) => Promise<Record<number, PersonData['picks']>>,
  ) {
    const { people, events, shared: parts, now } = this.given;
    const shop = this.known(id);
    const email = given.toLowerCase();
    const found = people.idOf(shop, email);
    const [person] = found === null ? [] : people.data(shop, [found]);
    const shared = sharedDataOf(parts, shop, now(), []);
    if (!person || !shared) throw new Refusal(404, `Nobody here has the address “${given}”.`);
    const picks = (await picksOf(shop, [person.id]))[person.id];
    const data = picks
      ? { ...person.data, picks: { ...picks, ...person.data.picks } }
      : person.data;
    const products = productIndex(shared, productsOf(parts, shop, [{ data }]));
    const {
      catalog: _c,
      feeds: _f,
      coupon: _p,
      shop: _s,
      ...record
    } = assembleRecord(data, shared, products);
    return { id: person.id, record, events: events.of(shop, email) };
  }
}
