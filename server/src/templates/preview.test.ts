import type { Mail } from '@carafe/core/render';
import { asking, said, testServer } from '../testing';

let server: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  server = await testServer({ demo: true });
}, 120_000);
const api = asking(() => server);

interface Listed {
  id: number;
  email: string;
  name: string;
}
const people = async (shop: string, having: string): Promise<Listed[]> =>
  (
    (await api('get', `/shops/${shop}/recipients?having=${having}&limit=3`)).body as {
      recipients: Listed[];
    }
  ).recipients;
const cart = async () => {
  const { body } = await api('get', '/templates');
  const all = (body as { templates: { id: string; name: string }[] }).templates;
  return all.find(({ name }) => name === 'You left these on the potting bench')?.id ?? '';
};
const preview = async (query = '') => {
  const { status, body } = await api('get', `/templates/${await cart()}/preview${query}`);
  expect(status).toBe(200);
  return body as Mail | null;
};

test('a template is shown for whoever is asked for, else for the first who fits', async () => {
  const [first, second] = await people('quillmoss-gb', 'cart');
  const [own, others] = [await preview(), await preview(`?person=${second?.id}`)];
  expect(own?.subject).toContain(first?.name.split(' ')[0]);
  expect(others?.subject).toContain(second?.name.split(' ')[0]);
  expect(others?.html).not.toBe(own?.html);
});

test('nobody of another shop is shown, nor anybody who is not there', async () => {
  const [stranger] = await people('quillmoss-eu', 'all');
  expect(stranger).toBeDefined();
  expect(await preview(`?person=${stranger?.id}`)).toBeNull();
  expect(await preview('?person=999999999')).toBeNull();
  const wrong = await api('get', `/templates/${await cart()}/preview?person=Maud`);
  expect(wrong.status).toBe(400);
  expect(said(wrong)).not.toMatch(/NaN|expected/i);
});
