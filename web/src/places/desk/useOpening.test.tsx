/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds, type Template } from '@carafe/core/template';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled } from '../../testing';
import { desk, fakeWorker, somePeople } from '../../testing/desk';
import { DeskProvider, useDesk } from './useDesk';
import { useOpening } from './useOpening';

const c = composer(countedIds());
const mailFor = (words: string): Template =>
  blankTemplate('T', 'seeds', [c.section('S', [c.text(words)])]);
const CART = mailFor('{{ cart.total }}');
const PEOPLE = somePeople(30);

const AsOf = () => <p title="As of">{useDesk().asOf.toISOString()}</p>;

function Opened({ id }: { id: string }) {
  const { opened, problem } = useOpening(id);
  if (problem) return <p role="alert">{problem}</p>;
  return opened ? (
    <DeskProvider>
      <p>The desk</p>
      <AsOf />
    </DeskProvider>
  ) : (
    <p>Opening</p>
  );
}

/** A page that opens a template, over a server that gives it. */
function open(
  template: unknown,
  recipients: () => ReturnType<Parameters<typeof fakeServer>[0]>,
  moved = 0,
) {
  const worker = fakeWorker();
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.getTemplate, one))
      return { body: { id: 't', version: 3, updated_at: '2026-11-24', template } };
    if (isFor(ENDPOINTS.clock, one)) return { body: { now: '2026-11-24T09:00:00Z', moved } };
    return isFor(ENDPOINTS.listRecipients, one) ? recipients() : { body: {} };
  });
  renderPart(<Opened id="t" />);
  return { worker, lists: () => sent.filter((one) => isFor(ENDPOINTS.listRecipients, one)) };
}
beforeEach(() => {
  store.dispatch(api.util.resetApiState());
});
afterEach(cleanup);

test('a template opens with those who have what it reads; they are asked for once, and told ahead', async () => {
  const { worker, lists } = open(CART, () => ({ body: { total: 30, recipients: PEOPLE } }));
  await waitFor(() => screen.getByText('The desk'));
  await settled();
  expect(desk()).toMatchObject({ id: 't', version: 3, having: 'cart', total: 30 });
  expect(lists()).toHaveLength(1);
  expect(lists()[0]?.path).toContain('having=cart');
  const told = worker.told.map((m) => m.type);
  expect(told.filter((type) => type === 'template')).toHaveLength(1);
  const shown = worker.told.flatMap((m) => (m.type === 'show' && m.shown ? [m.shown] : []));
  expect(shown[0]).toMatchObject({ person: PEOPLE[0]?.id });
  expect(shown[0]?.near).toHaveLength(21);
});

test('a list that takes long is not waited for', async () => {
  let release = () => undefined as void;
  const held = new Promise<void>((done) => (release = done));
  const { lists } = open(CART, async () => {
    await held;
    return { body: { total: 30, recipients: PEOPLE } };
  });
  await waitFor(() => screen.getByText('The desk'));
  expect(desk().recipients).toEqual([]);
  await act(async () => release());
  await settled();
  expect(desk().total).toBe(30);
  expect(lists()).toHaveLength(1);
});

test('a list that failed ahead is asked for again, and a template that cannot be read says where', async () => {
  let asked = 0;
  const { lists } = open(CART, () =>
    ++asked === 1 ? refusal(500, 'No.') : { body: { total: 30, recipients: PEOPLE } },
  );
  await waitFor(() => screen.getByText('The desk'));
  await settled();
  expect(lists()).toHaveLength(2);
  expect(desk().total).toBe(30);
  cleanup();
  open({ ...CART, sections: 'none' }, () => ({ body: { total: 0, recipients: [] } }));
  await waitFor(() =>
    expect(screen.getByRole('alert').textContent).toMatch(/cannot be read.*sections/s),
  );
});

test('a clock that was moved on is the desk’s as well: the mail is filled for the day that the server has', async () => {
  const TEN_DAYS = 10 * 1440;
  const before = Date.now();
  open(CART, () => ({ body: { total: 30, recipients: PEOPLE } }), TEN_DAYS);
  const asOf = await screen.findByTitle('As of');
  expect(Date.parse(asOf.textContent ?? '') - before).toBeGreaterThanOrEqual(TEN_DAYS * 60_000);
});
