/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { api } from '../app/api';
import { store } from '../app/store';
import { fakeServer, isFor, queryOf, renderPart, settled } from '../testing';
import { ProductChoice, ProductsChoice } from './ProductChoice';

const PRODUCTS = [
  { sku: 'S-1', name: 'Aster' },
  { sku: 'S-2', name: 'Cress' },
];
const catalog = (id: string, shop: string | null) => ({ id, target: 'catalog', shop });

beforeEach(() => {
  store.dispatch(api.util.resetApiState());
  fakeServer((one) => {
    if (isFor(ENDPOINTS.listSources, one))
      return { body: { sources: [catalog('g', 's'), catalog('x', 'another')] } };
    const q = (queryOf(one)['q'] ?? '').toLowerCase();
    const rows = one.path.startsWith('/sources/g/')
      ? PRODUCTS.filter((record) => JSON.stringify(record).toLowerCase().includes(q))
      : [{ sku: 'X-1', name: `Another shop’s ${q}` }];
    const page = rows.map((record, id) => ({ id, key: record.sku, record }));
    return { body: { total: rows.length, rows: page } };
  });
});
afterEach(cleanup);

const put: unknown[] = [];
function One() {
  const [sku, setSku] = useState('');
  const onChange = (to: string) => {
    put.push(to);
    setSku(to);
  };
  return <ProductChoice shop="s" label="Product" value={sku} onChange={onChange} />;
}
function Some() {
  const [skus, setSkus] = useState(['S-1']);
  put.splice(0, Infinity, ...skus);
  return <ProductsChoice shop="s" label="Products" value={skus} most={5} onChange={setSkus} />;
}
const field = (label: string) =>
  screen.getByLabelText<HTMLInputElement>(label, { selector: 'input' });

it('a product is found by its name, and nothing is changed while it is looked for', async () => {
  put.length = 0;
  renderPart(<One />);
  await settled();
  await userEvent.type(field('Product'), 'cre');
  const option = await screen.findByRole('option', { name: /Cress S-2/, hidden: true });
  expect(put).toEqual([]);
  await userEvent.click(option);
  expect(put).toEqual(['S-2']);
  expect(field('Product').value).toBe('S-2');
  // What is chosen is told by its name below the SKU.
  expect(await screen.findByText('Cress', { selector: 'p' })).toBeTruthy();
});

it('a SKU that nobody proposes counts when the field is left; another shop’s products are not proposed', async () => {
  put.length = 0;
  renderPart(<One />);
  await settled();
  await userEvent.type(field('Product'), ' gone-7 ');
  await settled();
  expect(screen.queryByText(/Another shop/)).toBeNull();
  await userEvent.tab();
  expect(put).toEqual(['gone-7']);
  expect(await screen.findByText('No product has this SKU.')).toBeTruthy();
});

it('several are chosen one after the other', async () => {
  renderPart(<Some />);
  await settled();
  await userEvent.type(field('Products'), 'cress');
  await userEvent.click(await screen.findByRole('option', { name: /Cress S-2/, hidden: true }));
  expect(put).toEqual(['S-1', 'S-2']);
});

it('its label is seen, or read only where it stands in a line', async () => {
  const shared = { shop: 's', value: [], most: 5, onChange: () => undefined };
  renderPart(
    <>
      <ProductsChoice {...shared} label="With these" description="Or with all" />
      <ProductsChoice {...shared} label="Among others" inline />
    </>,
  );
  await settled();
  expect(screen.getByText('With these')).toBeTruthy();
  expect(screen.getByText('Or with all')).toBeTruthy();
  expect(screen.queryByText('Among others')).toBeNull();
  expect(field('Among others')).toBeTruthy();
});
