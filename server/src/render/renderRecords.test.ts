import { TEST_SHOP, testServer } from '../testing';
import { stageOf } from '../testingOccasions';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());
const { api, template } = stageOf(() => carafe);
interface Answer {
  template_version: number | null;
  mails: {
    state: string;
    blanks: { message: string }[];
    from: object;
    to: string | null;
    text: string;
    headers: Record<string, string>;
  }[];
}
const render = async (body: object) => {
  const answer = await api('post', '/render', body);
  return { status: answer.status, ...(answer.body as Answer) };
};
const maud = { person: { email: 'maud@post.example', first_name: 'Maud' } };

test('what was published is filled, unless the draft or a version is asked for', async () => {
  const id = await template('Hello', 'Hello {{ person.first_name }}');
  const stored = (await api('get', `/templates/${id}`)).body as {
    version: number;
    template: object;
  };
  const draft = JSON.parse(
    JSON.stringify(stored.template).replace('"Hello "', '"Draft "'),
  ) as object;
  await api('put', `/templates/${id}`, { version: stored.version, template: draft });
  const asked = async (version?: unknown) => {
    const { template_version, mails } = await render({ template_id: id, records: [maud], version });
    return [template_version, mails[0]?.text.split('\n')[0]];
  };
  expect(await asked()).toEqual([1, 'Hello Maud']);
  expect(await asked('draft')).toEqual([null, 'Draft Maud']);
  expect(await asked(1)).toEqual([1, 'Hello Maud']);
  expect((await render({ template_id: id, records: [maud], version: 9 })).status).toBe(409);
});

test('the shop and the links are filled in; who it is from and for is told; its links are answered', async () => {
  const id = await template('Hello', 'Hello from {{ shop.name }}');
  const { status, mails } = await render({ template_id: id, records: [maud] });
  expect([status, mails[0]?.state]).toEqual([200, 'whole']);
  expect(mails[0]).toMatchObject({
    from: { address: 'post@s.example' },
    to: 'maud@post.example',
    text: expect.stringContaining('Hello from S') as string,
  });
  const link = /http:\/\/127\.0\.0\.1:4600(\/mail\/unsubscribe\/[\w-]+)/.exec(
    mails[0]?.text ?? '',
  )?.[1];
  expect(carafe.tables.people.tokens.read(link?.split('/').at(-1) ?? '')).toEqual({
    ...{ shop: 's', email: 'maud@post.example' },
  });
});

test('a record without what the email needs is broken, and never a plain 200', async () => {
  const id = await template(
    'Order',
    'Your order {{ order.number }} of {{ date(order.placed_at) }}',
  );
  const whole = { ...maud, order: { number: 'X-9', placed_at: '2026-11-20T10:00:00Z', lines: [] } };
  const blank = { ...maud, order: { number: 'X-9', lines: [] } };
  const some = await render({ template_id: id, records: [whole, blank, maud] });
  expect([some.status, some.mails.map(({ state }) => state)]).toEqual([
    207,
    ['whole', 'blank_parts', 'broken'],
  ]);
  expect(some.mails[1]?.blanks.map(({ message }) => message)).toEqual([
    expect.stringMatching(/date\(order\.placed_at\) \}\} is blank\.$/),
  ]);
  expect(some.mails[2]?.blanks[0]?.message).toMatch(/the record has no “order”\.$/);
  expect((await render({ template_id: id, records: [maud] })).status).toBe(422);
  const broken = await template('Broken', 'Hello', 'Hi {{ person.first_name');
  const stored = (await api('get', `/templates/${broken}`)).body as { template: object };
  expect((await render({ template: stored.template, records: [maud] })).status).toBe(422);
});

test('links of an exported record lead to where Carafe answers', async () => {
  await api('post', '/events', [
    {
      id: 'x',
      at: '2026-11-24T08:00:00Z',
      shop: 's',
      kind: 'viewed',
      sku: 'A',
      email: 'maud@post.example',
    },
  ]);
  const read = async () =>
    (
      (await api('get', '/shops/s/person?email=maud@post.example')).body as {
        record: { links: { unsubscribe: string } };
      }
    ).record.links.unsubscribe;
  carafe.tables.shops.update({ ...TEST_SHOP, pictures: 'http://127.0.0.1:4600/pictures' });
  expect(await read()).toMatch(/^http:\/\/127\.0\.0\.1:4600\/mail\/unsubscribe\/[\w-]+$/);
  const settings = carafe.tables.mailSettings.get();
  await api('put', '/mail/settings', { ...settings, public_url: 'https://letters.example/' });
  expect(await read()).toMatch(/^https:\/\/letters\.example\/mail\/unsubscribe\/[\w-]+$/);
});
