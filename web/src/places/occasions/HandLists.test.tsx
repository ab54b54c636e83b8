/** @jest-environment jsdom */
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type ListedCart, type StoredOccasion } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { HandLists } from './HandLists';

const row = (person: number): ListedCart => ({
  ...{ person, email: `p${person}@q.example`, name: `Person ${person}`, consent: person !== 2 },
  ...{ what: 'Pot', total: 12.5, currency: 'GBP', since: '2026-11-24T09:00:00Z', last_mail: null },
});
const occasion = (id: string, kind: string, on: boolean) =>
  ({ id, on_since: on ? 'now' : null, occasion: { name: id, start: { kind } } }) as StoredOccasion;
const user = userEvent.setup({ delay: null });

function shown(
  rows: ListedCart[],
  of: number,
  occasions = [occasion('Hand', 'by_hand', true), occasion('Off', 'by_hand', false)],
  refused: string | null = null,
): Sent[] {
  store.dispatch(api.util.resetApiState());
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listByHand, one))
      return { body: one.path.endsWith('carts') ? { rows, of } : { rows: [], of: 0 } };
    if (isFor(ENDPOINTS.startByHand, one))
      return refused === null ? { body: { entered: 2, mails: 1 } } : refusal(409, refused);
    return { body: { now: new Date().toISOString(), moved: 0 } };
  });
  renderPart(<HandLists shop="s" occasions={occasions} onClose={() => undefined} />);
  return sent;
}
const posted = (sent: Sent[]) => sent.find((one) => isFor(ENDPOINTS.startByHand, one));
afterEach(cleanup);

test('all that are listed are chosen by one click, and sent to by an occasion that is on', async () => {
  const sent = shown([row(1), row(2)], 2);
  expect(await screen.findByText('2 carts, the latest first.')).toBeTruthy();
  const all = screen.getByLabelText<HTMLInputElement>('Choose all 2');
  await user.click(screen.getByLabelText('Person 1'));
  expect(all.indeterminate).toBe(true);
  await user.click(all);
  await user.click(screen.getByRole('button', { name: 'Send to 2 people' }));
  expect(posted(sent)?.path).toContain('/occasions/Hand/hand');
  expect(posted(sent)?.body).toMatchObject({ people: [1, 2] });
  expect((await screen.findByRole('status')).textContent).toMatch(
    /2 people entered, 1 email created/,
  );
  expect(all.checked).toBe(false);
});

test('where there are more than are listed, that is told; consent is told of each', async () => {
  shown([row(1), row(2)], 8_123);
  expect(await screen.findByText('The latest 2 of 8,123 carts.')).toBeTruthy();
  const [, second] = screen.getAllByRole('rowheader');
  expect(within(second as HTMLElement).getByText('(no consent)')).toBeTruthy();
});

test('what is refused is told, and those who were chosen stay chosen', async () => {
  shown([row(1)], 1, undefined, 'The occasion was switched off.');
  await user.click(await screen.findByLabelText('Choose it'));
  await user.click(screen.getByRole('button', { name: 'Send to 1 person' }));
  expect((await screen.findByRole('alert')).textContent).toBe('The occasion was switched off.');
  expect(screen.getByRole('button', { name: 'Send to 1 person' })).toBeTruthy();
});

test('nothing is sent without an occasion; the other list is empty, and that is said', async () => {
  shown([row(1)], 1, [occasion('Off', 'by_hand', false)]);
  await user.click(await screen.findByLabelText('Person 1'));
  expect(screen.getByRole('button', { name: /^Send to/ })).toHaveProperty('disabled', true);
  expect(screen.getByText(/First switch on an occasion that starts by hand/)).toBeTruthy();
  await user.click(screen.getByText('Orders not paid'));
  expect(await screen.findByText('There are none now.')).toBeTruthy();
  expect(screen.queryByLabelText(/^Choose/)).toBeNull();
});
