/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type NotesOfShop } from '@carafe/contract';
import { EMPTY_NOTE } from '@carafe/core/library';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, queryOf, refusal, renderPart, type Sent } from '../../testing';
import { nameFor } from '../../parts/FormulaSheet';
import { NotesPlace } from './NotesPlace';

const shop = { id: 's', name: 'S' };
const answer = (notes: NotesOfShop) =>
  fakeServer((sent) => {
    if (isFor(ENDPOINTS.listShops, sent)) return { body: { shops: [shop] } };
    return isFor(ENDPOINTS.listNotes, sent) ? { body: notes } : {};
  });
const NONE = { categories: [], tags: [], statuses: [] };
const stored = (more: object, note: object) => ({
  ...{ id: 'n1', version: 'v1', source: null, products: 3, sample: ['Iris'], shown_in: [] },
  ...more,
  note: { ...EMPTY_NOTE, ...note },
});

afterEach(cleanup);
beforeEach(() => void store.dispatch(api.util.resetApiState()));

test('a shop without notes is told what they are for', async () => {
  answer({ ...NONE, notes: [], without: { count: 240, sample: ['Pot'] } });
  renderPart(<NotesPlace />);
  expect(await screen.findByText(/No notes yet/)).toBeTruthy();
});

test('what a note goes with, where it shows, and what has none is told', async () => {
  answer({
    ...NONE,
    notes: [
      stored({}, { title: 'Bulbs', categories: ['Bulbs'], statuses: ['Sent'] }),
      stored({ id: null, source: { id: 'x', name: 'Growing' } }, { title: 'Thanks' }),
      stored(
        { id: 'n3', shown_in: [{ id: 't', name: 'The order' }] },
        { title: 'Many', skus: ['a', 'b', 'c', 'd', 'e', 'f'] },
      ),
    ],
    without: { count: 2, sample: ['Trowel'] },
  });
  renderPart(<NotesPlace />);
  expect(await screen.findByRole('button', { name: 'Bulbs' })).toBeTruthy();
  // What a source feeds is changed there.
  expect(screen.queryByRole('button', { name: 'Thanks' })).toBeNull();
  expect(screen.getByRole('link', { name: 'from Growing' })).toBeTruthy();
  expect(screen.getByText('every order')).toBeTruthy();
  expect(screen.getByText('a, b, c, d and 2 more')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'The order' })).toBeTruthy();
  expect(screen.getAllByText('no template has a note slot for it')).toHaveLength(2);
  expect(screen.getByRole('button', { name: '2 products have no note' })).toBeTruthy();
});

const product = (i: number) => ({
  sku: `P-${i}`,
  name: `Pot ${i}`,
  category: 'Pots',
  notes: ['Clay'],
});

test('which products have which notes, and which have none, is listed a page at a time', async () => {
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listShops, one)) return { body: { shops: [shop] } };
    if (isFor(ENDPOINTS.listNotes, one))
      return {
        body: {
          ...NONE,
          notes: [stored({ products: 130 }, { title: 'Clay' })],
          without: { count: 1, sample: ['Trowel'] },
        },
      };
    const { offset = '0', without } = queryOf(one);
    if (without === 'true') return refusal(500, 'The catalog cannot be read.');
    const rest = Array.from({ length: 130 }, (_, i) => product(i)).slice(Number(offset));
    return { body: { total: 130, products: rest.slice(0, 100) } };
  });
  renderPart(<NotesPlace />);
  await userEvent.click(await screen.findByRole('button', { name: '130 products with “Clay”' }));
  const list = await screen.findByRole('list', { name: 'Products with “Clay”' });
  expect(await screen.findByText('130 products')).toBeTruthy();
  expect(within(list).getAllByRole('listitem')).toHaveLength(100);
  await userEvent.click(screen.getByRole('button', { name: '30 more' }));
  await waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(130));
  expect(within(list).getByText('Pot 129').textContent).toContain('P-129, Pots');
  expect(screen.queryByRole('button', { name: /more/ })).toBeNull();
  await userEvent.type(screen.getByRole('textbox', { name: 'Search products' }), 'pot');
  await waitFor(() =>
    expect(queryOf(sent.at(-1) as Sent)).toMatchObject({ q: 'pot', note: '0', offset: '0' }),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Close' }));
  await userEvent.click(await screen.findByRole('button', { name: '1 product has no note' }));
  expect((await screen.findByRole('alert')).textContent).toBe('The catalog cannot be read.');
});

test.each([
  ['Regular customer', 'regular_customer'],
  ['  Größe (cm)  ', 'große_cm'],
  ['3 things', 'things'],
  ['!!', ''],
])('the name of “%s” in formulas is %s', (label, name) => expect(nameFor(label)).toBe(name));

test('the products of a note are found by their names', async () => {
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listShops, one)) return { body: { shops: [shop] } };
    if (isFor(ENDPOINTS.listNotes, one))
      return { body: { ...NONE, notes: [], without: { count: 0, sample: [] } } };
    if (isFor(ENDPOINTS.listSources, one))
      return { body: { sources: [{ id: 'g', target: 'catalog', shop: 's' }] } };
    if (isFor(ENDPOINTS.sourceRows, one))
      return { body: { total: 1, rows: [{ id: 1, key: 'P-1', record: product(1) }] } };
    return { body: {} };
  });
  renderPart(<NotesPlace />);
  await userEvent.click(await screen.findByRole('button', { name: /Write a note|Add a note/ }));
  await userEvent.type(
    await screen.findByLabelText('For these products', { selector: 'input' }),
    'pot',
  );
  await userEvent.click(await screen.findByRole('option', { name: /Pot 1 P-1/, hidden: true }));
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(sent.find((one) => isFor(ENDPOINTS.addNote, one))?.body).toMatchObject({
      skus: ['P-1'],
    }),
  );
});
