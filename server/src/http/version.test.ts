import { EMPTY_NOTE } from '@carafe/core/library';
import { FIRST_RULES } from '@carafe/core/occasion';
import request from 'supertest';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
const api = asking(() => carafe);
beforeAll(async () => {
  carafe = await testServer();
  await api('post', '/shops', TEST_SHOP);
});
afterAll(() => carafe.store.close());

const rule = (label: string) => ({
  ...{ name: 'best', label, number: 3 },
  steps: [{ take: 3, step: { kind: 'best_sellers', days: 30, by: 'units' } }],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
});
const formula = (label: string) => ({
  ...{ name: 'hello', formula: '"Hello"', label, description: '', group: '', use: 'value' },
});
interface Versioned {
  /** What there is of it, as a page reads it. */
  list: string;
  read: (body: never) => { id?: string; version: string } | undefined;
  /** Where it is made, if it is not there from the beginning. */
  make?: string;
  path: (id: string) => string;
  document: (words: string) => object;
}
const KINDS: Record<string, Versioned> = {
  rules: {
    ...{ list: '/shops/s/rules', make: '/shops/s/rules' },
    read: ({ rules }: { rules: { id: string; version: string }[] }) => rules[0],
    path: (id) => `/rules/${id}`,
    document: rule,
  },
  'named formulas': {
    ...{ list: '/shops/s/formulas', make: '/shops/s/formulas' },
    read: ({ formulas }: { formulas: { id: string; version: string }[] }) => formulas[0],
    path: (id) => `/formulas/${id}`,
    document: formula,
  },
  'product notes': {
    ...{ list: '/shops/s/notes', make: '/shops/s/notes' },
    read: ({ notes }: { notes: { id: string; version: string }[] }) => notes[0],
    path: (id) => `/notes/${id}`,
    document: (title) => ({ ...EMPTY_NOTE, title }),
  },
  segments: {
    ...{ list: '/shops/s/segments', make: '/shops/s/segments' },
    read: ({ segments }: { segments: { version: string }[] }) => segments[0],
    path: () => '/shops/s/segments/Buyers',
    document: (words) => ({ name: 'Buyers', formula: `person.first_name = "${words}"` }),
  },
  'what holds for all occasions': {
    list: '/shops/s/occasions',
    read: ({ rules_version: version }: { rules_version: string }) => ({ version }),
    path: () => '/shops/s/mail-rules',
    document: (words) => ({ ...FIRST_RULES, most_a_week: words.length }),
  },
  'mail settings': {
    list: '/mail/settings',
    read: (body: { version: string }) => body,
    path: () => '/mail/settings',
    document: (words) => ({ ...carafe.tables.mailSettings.get(), per_minute: words.length }),
  },
  'the house': {
    list: '/shops',
    read: ({ shops }: { shops: { id: string; version: string }[] }) => shops[0],
    path: () => '/shops/s',
    document: (name) => ({ ...TEST_SHOP, name }),
  },
};

test.each(Object.entries(KINDS))(
  'of two who change %s at once, the second is told and loses nothing of the first',
  async (_, { list, read, make, path, document }) => {
    if (make) expect((await api('post', make, document('First'))).status).toBe(201);
    const now = async () => read((await api('get', list)).body as never);
    const { id = '', version = '' } = (await now()) ?? {};
    const change = (words: string, of?: string) =>
      request(carafe.app)
        .put(`/api${path(id)}`)
        .query(of === undefined ? {} : { version: of })
        .set('Host', '127.0.0.1')
        .send(document(words));
    expect(said(await change('No version'))).toContain('?version=');
    expect((await now())?.version).toBe(version);
    expect((await change('Second one', version)).status).toBe(200);
    const second = (await now())?.version;
    expect(second).not.toBe(version);
    const late = await change('Third', version);
    expect([late.status, said(late)]).toEqual([
      409,
      expect.stringContaining('changed elsewhere in the meantime. Nothing was saved'),
    ]);
    expect((await now())?.version).toBe(second);
    // The answer to a change is what the next is made to.
    expect((await change('Third', second)).status).toBe(200);
  },
);
