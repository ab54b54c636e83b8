import type { AnswerOf, BodyOf, ENDPOINTS, TestRecipientData } from '@carafe/contract';
import { NOBODY } from '@carafe/core/solve';
import { readPersonData, type PersonData } from '@carafe/core/record';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { PeopleRepository } from '../people/repository';
import type { TestRecipientsRepository } from '../people/testRecipientsRepository';
import { templateOrRefuse } from '../templates/service';
import type { MakeJobs } from './makeOne';

interface Given {
  store: Pick<Store, 'write'>;
  people: Pick<PeopleRepository, 'data' | 'some'>;
  testRecipients: TestRecipientsRepository;
  jobs: Jobs<MakeJobs>;
  updates: LiveUpdates;
  now: () => Date;
}
/** A shop has so many at most. */
const MOST = 200;

/** Recipients made up by hand, or for a branch that nobody reaches: used wherever a recipient is, and never mailed. */
export class TestRecipients {
  constructor(private readonly given: Given) {}

  list(shop: string): { recipients: TestRecipientData[] } {
    return { recipients: this.given.testRecipients.all(shop) };
  }

  private found(shop: string, id: number): TestRecipientData {
    const found = this.given.testRecipients.find(shop, id);
    if (!found) throw new Refusal(404, 'There is no such test recipient; perhaps it was deleted.');
    return found;
  }

  private read(given: unknown): PersonData {
    const read = readPersonData(given);
    if (!read.ok) throw new Refusal(422, `This is not a recipient. ${read.message}`);
    return read.data;
  }

  private async insert(shop: string, name: string, data: PersonData): Promise<number> {
    const { store, testRecipients, updates, now } = this.given;
    const id = await store.write(() => {
      if (testRecipients.all(shop).length >= MOST)
        throw new Refusal(
          409,
          `A shop can have at most ${MOST} test recipients. Delete some first.`,
        );
      return testRecipients.insert(shop, name, data, now().toISOString());
    });
    updates.publish({ type: 'people', shop, ids: [id] });
    return id;
  }

  async add(shop: string, body: BodyOf<(typeof ENDPOINTS)['addTestRecipient']>) {
    if ('data' in body)
      return this.found(shop, await this.insert(shop, body.name, this.read(body.data)));
    if (!('like' in body)) return this.found(shop, await this.insert(shop, body.name, NOBODY));
    const [real] = this.given.people.data(shop, [body.like]);
    if (!real) throw new Refusal(404, 'This recipient no longer exists. Choose another.');
    const { token: _token, ...data } = real.data;
    const copy = { ...data, person: { ...data.person, ...NOBODY.person } };
    return this.found(shop, await this.insert(shop, body.name, copy));
  }

  async change(shop: string, id: number, { name, data }: { name: string; data?: unknown }) {
    const { store, testRecipients, updates } = this.given;
    const read = this.read(data);
    await store.write(() => {
      this.found(shop, id);
      testRecipients.update(shop, { id, name, data: read });
    });
    updates.publish({ type: 'people', shop, ids: [id] });
    return this.found(shop, id);
  }

  async remove(shop: string, id: number): Promise<void> {
    const { store, testRecipients, updates } = this.given;
    await store.write(() => {
      this.found(shop, id);
      testRecipients.remove(shop, id);
    });
    updates.publish({ type: 'people', shop, ids: [] });
  }

  /** Makes up somebody who reaches a part of a template, and keeps them. */
  async make(
    shop: string,
    { template: document, target }: BodyOf<(typeof ENDPOINTS)['makeOne']>,
  ): Promise<AnswerOf<(typeof ENDPOINTS)['makeOne']>> {
    const { jobs, people, now } = this.given;
    const template = templateOrRefuse(document);
    if (template.shop !== shop)
      throw new Refusal(
        422,
        `This template belongs to the shop “${template.shop}”, not to this one.`,
      );
    const solved = await jobs.run('makeOne', {
      ...{ template, target: target as never, now: now().toISOString() },
    });
    if (!solved) throw new Refusal(404, 'The shop of this template no longer exists.');
    if (!solved.ok) throw new Refusal(422, solved.why);
    const name = `Made up: ${solved.changes.join(', ') || 'as they are'}`.slice(0, 120);
    const id = await this.insert(shop, name, solved.data);
    const [recipient] = people.some(shop, [id]);
    if (!recipient) throw new Refusal(404, 'The recipient that was made is already sent.');
    return { recipient, changes: solved.changes };
  }
}
