import type { Recipient, StoredTemplate, TestRecipientData } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { asking, said, testServer } from '../testing';

let server: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  server = await testServer({ demo: true });
}, 120_000);
const api = asking(() => server);
const SHOP = '/shops/quillmoss-gb';

const cartMail = async (): Promise<Template> => {
  const { body } = await api('get', '/templates');
  const { templates } = body as { templates: { id: string; name: string }[] };
  const id = templates.find(({ name }) => name.startsWith('You left these'))?.id ?? '';
  return ((await api('get', `/templates/${id}`)).body as StoredTemplate).template as Template;
};
const listed = async (query: string) =>
  (await api('get', `${SHOP}/recipients?${query}`)).body as {
    total: number;
    recipients: Recipient[];
  };

test('somebody is made for a branch that nobody reaches, kept, looked at, and mailed by nothing', async () => {
  const template = await cartMail();
  const block = template.sections[1]?.columns[0]?.blocks[0];
  if (block) block.when = 'cart.total > 100000 and person.first_name = "Zora"';
  const target = { node: block?.id ?? '' };
  const before = await listed('having=cart&limit=1');
  const { body, status } = await api('post', `${SHOP}/made`, { template, target });
  expect(status).toBe(200);
  const { recipient } = body as { recipient: Recipient };
  expect(recipient).toMatchObject({ made_up: true, lines: expect.any(Number) });
  expect(recipient.id).toBeLessThan(0);
  const filled = await api('post', `${SHOP}/filled`, { template, person: recipient.id });
  expect((filled.body as { html: string }).html).toContain('You left these');
  const after = await listed(`having=cart&limit=5&offset=${before.total}`);
  expect(after.total).toBe(before.total + 1);
  expect(after.recipients).toEqual([recipient]);
  const { body: piece } = await api('post', `${SHOP}/survey`, { template, most: 5_000 });
  expect((piece as { survey: { people: number } }).survey.people).toBe(before.total);
  const { body: all } = await api('get', `${SHOP}/occasions`);
  const { occasions } = all as { occasions: { id: string }[] };
  const hand = await api('post', `/occasions/${occasions[0]?.id ?? ''}/hand`, {
    people: [recipient.id],
    name: 'x',
  });
  expect(hand.status).toBe(400);
}, 60_000);

test('what cannot be made says what it would take', async () => {
  const template = await cartMail();
  const block = template.sections[1]?.columns[0]?.blocks[0];
  if (block) block.when = 'shop.currency = "USD"';
  const answer = await api('post', `${SHOP}/made`, { template, target: { node: block?.id } });
  expect(answer.status).toBe(422);
  expect(said(answer)).toMatch(/the same for everybody/);
}, 60_000);

test('one is begun with nothing, and shown in a mail like anybody', async () => {
  const made = await api('post', `${SHOP}/test-recipients`, { name: 'A new one' });
  expect(made.status).toBe(201);
  const { id, data } = made.body as TestRecipientData;
  expect(data).toMatchObject({ shopper: { cart: null, orders: [] } });
  const filled = await api('post', `${SHOP}/filled`, { template: await cartMail(), person: id });
  expect(filled.status).toBe(200);
  expect((await api('post', `${SHOP}/test-recipients`, { name: ' ' })).status).toBe(400);
  expect((await api('delete', `${SHOP}/test-recipients/${id}`)).status).toBe(204);
});

test('one is copied from a real person, changed, refused where it is none, and deleted', async () => {
  const { recipients } = await listed('having=cart&limit=1');
  const made = await api('post', `${SHOP}/test-recipients`, {
    name: 'Like them',
    like: recipients[0]?.id,
  });
  expect(made.status).toBe(201);
  const { id, data } = made.body as TestRecipientData;
  expect(data.person).toMatchObject({ email: 'made-up@recipient.example' });
  const path = `${SHOP}/test-recipients/${id}`;
  const person = { ...data.person, first_name: 'Zora', old_field: 'kept' };
  const changed = await api('put', path, { name: 'Zora', data: { person } });
  expect((changed.body as TestRecipientData).data).toMatchObject({
    ...{ person, shopper: { cart: null, orders: [] } },
  });
  const bad = await api('put', path, { name: 'Zora', data: { person, shopper: { orders: 3 } } });
  expect(bad.status).toBe(422);
  expect(said(bad)).toMatch(/^This is not a recipient\. shopper\.orders/);
  expect((await api('get', `${SHOP}/people/some?ids=${id}`)).status).toBeLessThan(500);
  expect((await listed('having=all&q=old_field&limit=5')).recipients).toMatchObject([{ id }]);
  expect((await listed('having=all&q=old_field&limit=5&consent=yes')).recipients).toEqual([]);
  expect((await api('delete', path)).status).toBe(204);
  expect((await api('delete', path)).status).toBe(404);
});
