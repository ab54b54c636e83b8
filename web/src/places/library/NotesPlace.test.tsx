/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { ENDPOINTS, type NotesOfShop } from '@carafe/contract';
import { EMPTY_NOTE } from '@carafe/core/library';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, renderPart } from '../../testing';
import { nameFor } from './FormulaSheet';
import { NotesPlace } from './NotesPlace';

const shop = { id: 's', name: 'S' };
const answer = (notes: NotesOfShop) =>
  fakeServer((sent) => {
    if (isFor(ENDPOINTS.listShops, sent)) return { body: { shops: [shop] } };
    return isFor(ENDPOINTS.listNotes, sent) ? { body: notes } : {};
  });
const NONE = { categories: [], tags: [], statuses: [] };
const stored = (more: object, note: object) => ({
  ...{ id: 'n1', source: null, products: 3, sample: ['Iris'], shown_in: [] },
  ...more,
  note: { ...EMPTY_NOTE, ...note },
});

beforeEach(() => void store.dispatch(api.util.resetApiState()));

test('a shop without notes is told what they are for', async () => {
  answer({ ...NONE, notes: [], without: { count: 240, sample: ['Pot'] } });
  renderPart(<NotesPlace />);
  expect(await screen.findByText(/Nothing is written yet/)).toBeTruthy();
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
  expect(screen.getAllByText('no template has a slot for it')).toHaveLength(2);
  expect(screen.getByText('2 products have no note: Trowel …')).toBeTruthy();
});

test.each([
  ['Regular customer', 'regular_customer'],
  ['  Größe (cm)  ', 'große_cm'],
  ['3 things', 'things'],
  ['!!', ''],
])('the name of “%s” in formulas is %s', (label, name) => expect(nameFor(label)).toBe(name));
