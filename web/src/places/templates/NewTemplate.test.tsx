/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled, type Sent } from '../../testing';
import { NewTemplate } from './NewTemplate';

const SHOPS = { body: { shops: [{ id: 'seeds', name: 'Seeds' }] } };
const made = (sent: Sent[]) =>
  sent.filter((one) => isFor(ENDPOINTS.createTemplate, one)).map(({ body }) => body);

function shown(reply: Parameters<typeof fakeServer>[0]) {
  store.dispatch(api.util.resetApiState());
  const sent = fakeServer(reply);
  let closed = false;
  renderPart(<NewTemplate onClose={() => (closed = true)} />);
  return { sent, closed: () => closed };
}
afterEach(cleanup);

it('what is asked before the shops are there is made when they are', async () => {
  let arrive: (answer: typeof SHOPS) => void = () => undefined;
  const late = new Promise<typeof SHOPS>((done) => (arrive = done));
  const { sent, closed } = shown((one) =>
    isFor(ENDPOINTS.createTemplate, one) ? { status: 201, body: { id: 't' } } : late,
  );
  await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Spring{Enter}');
  await settled();
  expect(made(sent)).toEqual([]);
  act(() => arrive(SHOPS));
  await waitFor(() =>
    expect(made(sent)).toEqual([{ layout: 'blank', name: 'Spring', shop: 'seeds' }]),
  );
  await waitFor(() => expect(closed()).toBe(true));
});

it('a refusal is told, and what was typed stays', async () => {
  const { closed } = shown((one) =>
    isFor(ENDPOINTS.createTemplate, one) ? refusal(400, 'There is no shop “seeds”.') : SHOPS,
  );
  await settled();
  await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Spring{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('There is no shop “seeds”.');
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Name' }).value).toBe('Spring');
  expect(closed()).toBe(false);
});

it('a file that is no template says so', async () => {
  shown(() => SHOPS);
  await settled();
  await userEvent.upload(
    screen.getByLabelText('Template file'),
    new File(['{"format":'], 'cut.json', { type: 'application/json' }),
  );
  await settled();
  expect((await screen.findByRole('alert')).textContent).toBe(
    'cut.json: This is not JSON, or it is incomplete.',
  );
});
