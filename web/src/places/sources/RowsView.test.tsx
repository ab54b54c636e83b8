/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, queryOf, refusal, renderPart } from '../../testing';
import { RowsView } from './RowsView';

const CATALOG = { id: 'c', kind: 'file', target: 'catalog', shop: 's' } as SourceSummary;
const PEOPLE = { id: 'p', kind: 'file', target: 'people', shop: 's' } as SourceSummary;
const PRODUCTS = [
  { shade: 'red', price: 2.5, name: 'Aster', sku: 'S-1' },
  { shade: '', price: 12, name: 'Beet', sku: 'S-2' },
];
const listed = (records: object[]) => ({
  body: {
    total: records.length,
    rows: records.map((record, id) => ({ id, key: `${id}`, record })),
  },
});

function shown(source: SourceSummary, reply: Parameters<typeof fakeServer>[0]) {
  store.dispatch(api.util.resetApiState());
  const sent = fakeServer(reply);
  renderPart(<RowsView source={source} revision="1" />);
  return () => sent.filter((one) => isFor(ENDPOINTS.sourceRows, one)).map(queryOf);
}
const headers = () => screen.getAllByRole('columnheader');

beforeAll(() => {
  // The list shows what has room: here the room of ten rows.
  for (const side of ['clientHeight', 'clientWidth'] as const)
    Object.defineProperty(Element.prototype, side, { configurable: true, get: () => 340 });
});
afterEach(cleanup);

describe('the rows of a source', () => {
  it('stand under the key, the fields of their kind, and then their own', async () => {
    shown(CATALOG, () => listed(PRODUCTS));
    await screen.findByText('Aster');
    expect(headers().map((one) => one.textContent)).toEqual(['sku', 'name', 'price', 'shade']);
    expect(screen.getByText('2 rows')).toBeTruthy();
  });

  it('are sorted by the server, one way, the other, and not at all; the column says which', async () => {
    const asked = shown(CATALOG, () => listed(PRODUCTS));
    await screen.findByText('Aster');
    const price = screen.getByRole('button', { name: 'Sort by price' });
    const said = () => price.parentElement?.getAttribute('aria-sort');
    const steps: (string | null | undefined)[] = [said()];
    for (let i = 0; i < 3; i++) {
      await userEvent.click(price);
      steps.push(said());
    }
    expect(steps).toEqual(['none', 'ascending', 'descending', 'none']);
    await waitFor(() => expect(asked().map(({ sort }) => sort)).toContain('price'));
    expect(asked().some(({ sort, descending }) => sort && descending === 'true')).toBe(true);
  });

  it('are searched for, and a filter that is none says why beside itself', async () => {
    const asked = shown(CATALOG, (one) =>
      queryOf(one)['filter'] ? refusal(422, 'A bracket is not closed.') : listed(PRODUCTS),
    );
    await screen.findByText('Aster');
    await userEvent.type(screen.getByLabelText('Search rows'), 'beet');
    await waitFor(() => expect(asked().at(-1)).toMatchObject({ q: 'beet' }));
    await userEvent.type(screen.getByLabelText('Filter by formula'), 'price > (');
    await screen.findByText('A bracket is not closed.');
  });

  it('keep their columns when a filter leaves none; without any, the way to the first is told', async () => {
    shown(CATALOG, (one) => listed(queryOf(one)['q'] ? [] : PRODUCTS));
    await screen.findByText('Aster');
    await userEvent.type(screen.getByLabelText('Search rows'), 'nobody');
    await screen.findByText('0 rows');
    expect(headers()).toHaveLength(4);
    cleanup();
    shown(CATALOG, () => listed([]));
    await screen.findByText('It is empty. Upload a file.');
  });
});

const LINE = {
  ...{ at: '2026-11-23T10:00:00.000Z', kind: 'ended', occasion: 'o', cause: 'c', step: null },
  ...{ text: 'Ended: the order was cancelled.', held: null, parts: [], occasion_name: 'Pay' },
};

describe('a person of a shop', () => {
  const record = { person: { email: 'maud@q.example', first_name: 'Maud' }, cart: {} };
  const events = [
    { id: '1', at: '2026-11-20T10:00:00Z', kind: 'cart_added', name: 'Pot', quantity: 2, sku: 'P' },
    {
      id: '2',
      at: '2026-11-21T10:00:00Z',
      kind: 'order_status_changed',
      number: '7',
      status: 'sent',
    },
    {
      id: '3',
      at: '2026-11-22T10:00:00Z',
      kind: 'consent_changed',
      consent: false,
      how: 'by link',
    },
  ];
  const open = async (answer: { status?: number; body: unknown }) => {
    shown(PEOPLE, (one) => {
      if (isFor(ENDPOINTS.getPerson, one)) return answer;
      if (isFor(ENDPOINTS.personWhy, one)) return { body: { inside: [], lines: [LINE] } };
      if (isFor(ENDPOINTS.personRank, one)) return { body: { standing: null } };
      if (isFor(ENDPOINTS.listOutbox, one)) return { body: { total: 0, mails: [] } };
      if (isFor(ENDPOINTS.clock, one)) return { body: { now: LINE.at, moved: 0 } };
      return listed([{ email: 'maud@q.example' }]);
    });
    await userEvent.click(await screen.findByRole('button', { name: 'maud@q.example' }));
    return screen.findByRole('dialog');
  };

  it('opens as what a template sees, with the events that made it, the latest first', async () => {
    const sheet = within(await open({ body: { record, events } }));
    await sheet.findByText('Maud');
    // What occasions did with them, and then the events.
    expect(await sheet.findByText(/Ended: the order was cancelled/)).toBeTruthy();
    const items = sheet.getAllByRole('listitem').slice(1);
    expect(items.map((one) => one.firstChild?.textContent)).toEqual([
      'Consent',
      'Order status',
      'Added to the cart',
    ]);
    const words = items.map((one) => one.textContent ?? '');
    expect(words[0]).toContain('taken back, by link');
    expect(words[1]).toContain('7: sent');
    expect(words[2]).toContain('2 × Pot');
  });

  it('or says why not', async () => {
    const sheet = within(await open(refusal(404, 'Nobody has this address in this shop.')));
    expect((await sheet.findByRole('alert')).textContent).toContain('Nobody has this address');
  });
});
