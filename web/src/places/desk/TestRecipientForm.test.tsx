/** @jest-environment jsdom */
import { cleanup, fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { inferShape } from '@carafe/core/shape';
import { blankTemplate } from '@carafe/core/template';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, queryOf, refusal, settled, type Sent } from '../../testing';
import { fakeWorker, openTemplate, renderOnDesk } from '../../testing/desk';
import { TestRecipients } from './TestRecipients';

const POT = { sku: 'P-1', name: 'Long Tom pot', price: 16.3, category: 'Pots' };
const user = userEvent.setup({ delay: null });
let sent: Sent[];
let made: { id: number; name: string; data: unknown }[];
let refused: string | null;

async function shown() {
  store.dispatch(api.util.resetApiState());
  made = [];
  refused = null;
  globalThis.EventSource = class {
    close() {}
  } as never;
  const worker = fakeWorker();
  sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listTestRecipients, one)) return { body: { recipients: made } };
    if (isFor(ENDPOINTS.addTestRecipient, one)) {
      const { name } = one.body as { name: string };
      const data = { person: { email: 'made-up@recipient.example' }, shopper: { cart: null } };
      made = [{ id: -1, name, data }];
      return { status: 201, body: made[0] };
    }
    if (isFor(ENDPOINTS.changeTestRecipient, one))
      return refused === null ? { body: made[0] } : refusal(422, refused);
    if (isFor(ENDPOINTS.listShops, one)) return { body: { shops: [{ id: 's', currency: 'GBP' }] } };
    if (isFor(ENDPOINTS.listSources, one))
      return { body: { sources: [{ id: 'g', target: 'catalog', shop: 's' }] } };
    if (isFor(ENDPOINTS.sourceRows, one)) {
      const isFound = 'long tom pot p-1'.includes((queryOf(one)['q'] ?? '').toLowerCase());
      const rows = isFound ? [{ id: 1, key: 'P-1', record: POT }] : [];
      return { body: { total: rows.length, rows } };
    }
    return { body: { recipients: [], total: 0 } };
  });
  openTemplate(blankTemplate('T', 's', []));
  renderOnDesk(<TestRecipients onClose={() => undefined} />);
  await settled();
  worker.say({
    type: 'shape',
    shape: inferShape([{ person: { first_name: 'Maud', age: 4, guest: false } }]),
  });
  await user.click(screen.getByRole('button', { name: 'Create one' }));
  await screen.findByLabelText('Called');
}
const json = () =>
  JSON.parse(screen.getByLabelText<HTMLTextAreaElement>(/^Everything, as JSON/).value) as {
    person: unknown;
    shopper: { cart: { lines: { sku: string; quantity: number; total: number }[] } | null };
  };
const product = () =>
  screen.getByLabelText<HTMLInputElement>('One more product', { selector: 'input' });
const choose = async () => {
  await user.type(product(), 'pot');
  await user.click(await screen.findByRole('option', { name: /Long Tom pot/, hidden: true }));
};
afterEach(cleanup);

test('one is written by hand: fields of people, and a cart from the catalog', async () => {
  await shown();
  expect(sent.find((one) => isFor(ENDPOINTS.addTestRecipient, one))?.body).toEqual({
    name: 'A new one',
  });
  await user.type(screen.getByLabelText('First name'), 'Zora');
  await user.type(screen.getByLabelText('Age'), '42x');
  await user.click(screen.getByLabelText('Guest'));
  expect(json().person).toMatchObject({ first_name: 'Zora', age: 42, guest: true });
  await choose();
  await choose();
  fireEvent.change(screen.getAllByLabelText('How many Long Tom pot')[0] as HTMLElement, {
    target: { value: '3' },
  });
  expect(
    json().shopper.cart?.lines.map(({ sku, quantity, total }) => [sku, quantity, total]),
  ).toEqual([
    ['P-1', 3, 48.9],
    ['P-1', 1, 16.3],
  ]);
  for (let i = 0; i < 2; i++)
    await user.click(
      screen.getAllByRole('button', {
        name: 'Remove Long Tom pot from the cart',
      })[0] as HTMLElement,
    );
  expect(json().shopper.cart).toBeNull();
});

test('what no catalog has is told, and put nowhere', async () => {
  await shown();
  await user.type(product(), 'zebra');
  await user.tab();
  expect(await screen.findByText('No product has this SKU.')).toBeTruthy();
  expect(json().shopper.cart).toBeNull();
});

test.each([
  ['is broken', '{"person": {'],
  ['has a cart that is none', '{"person": {}, "shopper": {"cart": {"lines": 3}}}'],
  ['has no line in its lines', '{"person": {}, "shopper": {"cart": {"lines": [null]}}}'],
  ['has nobody', '{"person": null}'],
  ['is a list', '[]'],
  ['has no shopper to speak of', '{"person": {}, "shopper": "none"}'],
])('JSON that %s hides the form of the cart and stays as it is written', async (_, text) => {
  await shown();
  fireEvent.change(screen.getByLabelText(/^Everything, as JSON/), { target: { value: text } });
  expect(screen.queryByText('In the cart')).toBeNull();
  expect(screen.getByLabelText<HTMLTextAreaElement>(/^Everything, as JSON/).value).toBe(text);
});

test('what the server refuses is told, and nothing that was written is lost', async () => {
  await shown();
  await user.type(screen.getByLabelText('First name'), 'Zora');
  refused = 'This is not a recipient. shopper.cart: it has too many lines.';
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect((await screen.findByRole('alert')).textContent).toBe(refused);
  expect(json().person).toMatchObject({ first_name: 'Zora' });
});
