/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { pickedLoop, picksOf } from '@carafe/core/sentence';
import { blankTemplate, type Loop } from '@carafe/core/template';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import {
  fakeServer,
  isFor,
  queryOf,
  refusal,
  renderPart,
  settled,
  type Sent,
} from '../../../testing';
import { openTemplate } from '../../../testing/desk';
import { PickProducts } from './PickProducts';

const ROWS = ['Aster', 'Beet', 'Cress'].map((name, id) => ({
  id,
  key: name,
  record: {
    ...{ sku: `S-${id}`, name, price: 2.5, in_stock: id !== 1 },
    ...(id === 0 && { image: 'https://pictures.s.example/aster.png', currency: 'USD' }),
  },
}));
const PROFILE = {
  ...{ rows: 3, used_by: [] },
  fields: [{ name: 'category', commonest: [{ value: 'Seeds', count: 2 }] }],
};
let loop: Loop;
let sent: Sent[];
interface Catalog {
  list?: string;
  isBroken?: boolean;
  total?: number;
  picks?: readonly string[];
}
async function shown({ list = 'catalog.garden', isBroken, total = 3, picks = [] }: Catalog = {}) {
  store.dispatch(api.util.resetApiState());
  sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listSources, one))
      return {
        body: { sources: [{ id: 'g', target: 'catalog', shop: 's', formula_name: 'garden' }] },
      };
    if (isFor(ENDPOINTS.sourceProfile, one)) return { body: PROFILE };
    if (isFor(ENDPOINTS.listShops, one)) return { body: { shops: [{ id: 's', currency: 'GBP' }] } };
    if (isBroken) return refusal(500, 'The catalog cannot be read.');
    const { filter = '' } = queryOf(one);
    const rows = filter.startsWith('sku in')
      ? ROWS.filter(({ record }) => filter.includes(`"${record.sku}"`))
      : ROWS;
    return { body: { total, rows } };
  });
  openTemplate(blankTemplate('T', 's', []));
  function Page() {
    const [now, setNow] = useState<Loop>(pickedLoop({ list, as: 'product', at_most: 4 }, picks));
    loop = now;
    return <PickProducts loop={now} onPick={setNow} />;
  }
  renderPart(<Page />);
  await settled();
}
const open = async (name: string | RegExp) => {
  await userEvent.click(await screen.findByRole('button', { name }));
  return within(await screen.findByRole('region', { name: 'Products of the catalog' }));
};
const filters = () =>
  sent.filter((one) => isFor(ENDPOINTS.sourceRows, one)).map((one) => queryOf(one)['filter']);
afterEach(cleanup);

it('products are picked, put in order and taken out again', async () => {
  await shown();
  const catalog = await open('Pick products by hand');
  expect(await catalog.findByText('S-1, out of stock')).toBeTruthy();
  for (const name of [/Aster/, /Cress/])
    await userEvent.click(catalog.getByRole('button', { name }));
  await screen.findByRole('button', { name: 'Move Cress up' });
  expect(picksOf(loop)).toEqual(['S-0', 'S-2']);
  expect(catalog.getByRole<HTMLButtonElement>('button', { name: /Aster/ }).disabled).toBe(true);
  await userEvent.click(screen.getByRole('button', { name: 'Move Cress up' }));
  expect(picksOf(loop)).toEqual(['S-2', 'S-0']);
  await userEvent.click(screen.getByRole('button', { name: 'Remove Aster' }));
  expect(picksOf(loop)).toEqual(['S-2']);
  await userEvent.click(screen.getByRole('button', { name: 'Done' }));
  expect(await screen.findByRole('button', { name: '1 product picked by hand' })).toBeTruthy();
});

it('it is not offered for lists that are no catalog, and says what went wrong', async () => {
  await shown({ list: 'cart.lines' });
  expect(screen.queryByRole('button')).toBeNull();
  cleanup();
  await shown({ isBroken: true });
  await userEvent.click(await screen.findByRole('button', { name: 'Pick products by hand' }));
  expect((await screen.findByRole('alert')).textContent).toBe('The catalog cannot be read.');
});

it('the catalog is narrowed down by category, price and stock', async () => {
  await shown({ total: 240 });
  const catalog = await open('Pick products by hand');
  expect(await catalog.findByText(/^3 of 240 products/)).toBeTruthy();
  const category = catalog.getByLabelText<HTMLInputElement>('Category', { selector: 'input' });
  await userEvent.click(category);
  await userEvent.click(await screen.findByRole('option', { name: 'Seeds', hidden: true }));
  await userEvent.type(catalog.getByRole('textbox', { name: 'Price up to' }), '4.5');
  await userEvent.click(catalog.getByRole('checkbox', { name: 'In stock' }));
  const asked = 'category = "Seeds" and in_stock != false and price <= 4.5';
  await waitFor(() => expect(filters().at(-1)).toBe(asked));
  await userEvent.clear(category);
  await waitFor(() => expect(filters().at(-1)).toBe('in_stock != false and price <= 4.5'));
});

it('what was picked before has its name, and what left the catalog says so', async () => {
  await shown({ picks: ['S-2', 'S-9'] });
  await open('2 products picked by hand');
  const picked = within(screen.getByRole('region', { name: 'Picked' }));
  expect(await picked.findByText('Cress')).toBeTruthy();
  expect(picked.getByText('S-9').textContent).toBe('S-9 no longer in the catalog');
  await userEvent.click(picked.getByRole('button', { name: 'Remove S-9' }));
  expect(picksOf(loop)).toEqual(['S-2']);
});

it('Escape puts down what is held to be moved; the next one closes', async () => {
  await shown({ picks: ['S-2', 'S-0'] });
  await open('2 products picked by hand');
  const grip = await screen.findByRole('button', { name: 'Reorder Aster' });
  grip.focus();
  await userEvent.keyboard(' ');
  expect(await screen.findByText(/^(?:Picked up|Now at) \d of 2/)).toBeTruthy();
  await userEvent.keyboard('{Escape}');
  expect(await screen.findByText(/^Still at/)).toBeTruthy();
  expect(screen.getByRole('dialog', { name: 'Pick products' })).toBeTruthy();
  expect(picksOf(loop)).toEqual(['S-2', 'S-0']);
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

it('products stand with their pictures, and prices in their own currency or the shop’s', async () => {
  await shown();
  const catalog = await open('Pick products by hand');
  const aster = await catalog.findByRole('button', { name: /Aster/ });
  await waitFor(() =>
    expect(catalog.getByRole('button', { name: /Beet/ }).textContent).toContain('£2.50'),
  );
  expect(aster.textContent).toContain('US$2.50');
  expect(aster.querySelector('img')?.getAttribute('src')).toContain('aster.png');
});
