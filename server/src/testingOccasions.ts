import type { OutboxItem, Received, StoredOccasion, StoredTemplate } from '@carafe/contract';
import type { Occasion, Step } from '@carafe/core/occasion';
import { blankTemplate, composer, type Template } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from './testing';

export type TestServer = Awaited<ReturnType<typeof testServer>>;

/** For tests: a server of its own for each, with the shop `s` and a mail server, and at rest before it is closed. */
export function sendingServer(take: (server: TestServer) => void): void {
  let server: TestServer;
  beforeEach(async () => {
    server = await testServer();
    server.tables.shops.insert(TEST_SHOP);
    await server.mailServer.start(0);
    take(server);
  });
  afterEach(async () => {
    await server.runner.idle();
    await server.queue.idle();
    await server.sender.stop();
    await server.mailServer.stop();
    server.store.close();
  });
}

/** For tests: people, templates and occasions of a shop `s`, by the ways that a user takes. */
export function stageOf(server: () => TestServer) {
  const api = asking(server);
  let count = 0;
  const event = async (kind: string, email: string, more: object = {}): Promise<void> => {
    const { body } = await api('get', '/clock');
    const { now } = body as { now: string };
    const answer = await api('post', '/events', [
      { id: `event${++count}`, at: now, shop: 's', email, kind, ...more },
    ]);
    expect([answer.status, said(answer)]).toEqual([200, undefined]);
    await server().runner.idle();
  };
  const outbox = async (query = ''): Promise<OutboxItem[]> =>
    ((await api('get', `/shops/s/outbox${query}`)).body as { mails: OutboxItem[] }).mails;
  const mailbox = async (): Promise<Received[]> =>
    ((await api('get', '/mailbox')).body as { mails: Received[] }).mails;
  return {
    ...{ api, event, outbox, mailbox },
    agree: (email: string) => event('consent_changed', email, { consent: true }),
    add: (email: string, sku = 'A') =>
      event('cart_added', email, {
        ...{ sku, name: `Thing ${sku}`, price: 10, quantity: 1, currency: 'EUR' },
      }),
    order: (email: string, number: string) => event('order_placed', email, { number }),
    /** Moves the clock on; everything that lies between happens at its own time. */
    async move(minutes: number): Promise<void> {
      const answer = await api('post', '/clock', { minutes });
      expect([answer.status, said(answer)]).toEqual([200, undefined]);
    },
    /** A published template; gives its id. */
    async template(name: string, words = 'Hello', subject = name): Promise<string> {
      const c = composer(server().newId);
      const made: Template = blankTemplate(name, 's', [
        c.section('One', [c.text(words), c.button('Unsubscribe', '{{ links.unsubscribe }}')]),
      ]);
      const envelope = { ...made.envelope, from_email: 'post@s.example', subject };
      const stored = (await api('post', '/templates', { template: { ...made, envelope } }))
        .body as StoredTemplate;
      await api('post', `/templates/${stored.id}/publish`, { version: stored.version, note: '' });
      return stored.id;
    },
    send: (id: string, template: string, more: object = {}): Step => ({
      ...{ id, kind: 'send', template, mail: 'marketing', mode: 'on', to: 'person' },
      ...more,
    }),
    /** Adds an occasion and switches it on; gives its id. */
    async on(occasion: Partial<Occasion> & Pick<Occasion, 'start' | 'steps'>): Promise<string> {
      const whole = { name: 'Test', priority: 5, whom: { guests: true }, ...occasion };
      const made = (await api('post', '/shops/s/occasions', whole)).body as StoredOccasion;
      const answer = await api('post', `/occasions/${made.id}/publish`, { version: made.version });
      expect([answer.status, said(answer)]).toEqual([200, undefined]);
      await server().runner.idle();
      return made.id;
    },
    /** Changes an occasion that is on, and publishes it. */
    async republish(id: string, changed: (occasion: Occasion) => Occasion): Promise<void> {
      const { occasions } = (await api('get', '/shops/s/occasions')).body as {
        occasions: StoredOccasion[];
      };
      const stored = occasions.find((one) => one.id === id);
      if (!stored) throw new Error(`There is no occasion ${id}.`);
      const put = await api('put', `/occasions/${id}`, {
        ...{ version: stored.version, occasion: changed(stored.occasion) },
      });
      const { version } = put.body as StoredOccasion;
      const answer = await api('post', `/occasions/${id}/publish`, { version });
      expect([answer.status, said(answer)]).toEqual([200, undefined]);
      await server().runner.idle();
      await server().sender.kick();
    },
    /** Each mail as “address step state”, in the order in which they were made. */
    states: async (query = ''): Promise<string[]> =>
      (await outbox(query))
        .map(({ email, step, state }) => `${email.split('@')[0] ?? ''} ${step} ${state}`)
        .reverse(),
  };
}
