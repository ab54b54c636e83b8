/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { picksOf } from '@carafe/core/sentence';
import { blankTemplate, type Loop } from '@carafe/core/template';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled } from '../../../testing';
import { openTemplate } from '../../../testing/desk';
import { PickProducts } from './PickProducts';

const ROWS = ['Aster', 'Beet', 'Cress'].map((name, id) => ({
  id,
  key: name,
  record: { sku: `S-${id}`, name, price: 2.5, in_stock: id !== 1 },
}));
let loop: Loop;
async function shown(list = 'catalog.garden', isBroken = false) {
  store.dispatch(api.util.resetApiState());
  fakeServer((one) => {
    if (isFor(ENDPOINTS.listSources, one))
      return {
        body: { sources: [{ id: 'g', target: 'catalog', shop: 's', formula_name: 'garden' }] },
      };
    return isBroken
      ? refusal(500, 'The catalog cannot be read.')
      : { body: { total: 3, rows: ROWS } };
  });
  openTemplate(blankTemplate('T', 's', []));
  function Page() {
    const [now, setNow] = useState<Loop>({ list, as: 'product', at_most: 4 });
    loop = now;
    return <PickProducts loop={now} onPick={setNow} />;
  }
  renderPart(<Page />);
  await settled();
}
afterEach(cleanup);

it('products are picked, put in order and taken out again', async () => {
  await shown();
  await userEvent.click(await screen.findByRole('button', { name: 'Pick products by hand' }));
  const catalog = within(await screen.findByRole('region', { name: 'Products of the catalog' }));
  expect(await catalog.findByText('S-1, out of stock')).toBeTruthy();
  for (const name of [/Aster/, /Cress/])
    await userEvent.click(catalog.getByRole('button', { name }));
  expect(picksOf(loop)).toEqual(['S-0', 'S-2']);
  expect(catalog.getByRole<HTMLButtonElement>('button', { name: /Aster/ }).disabled).toBe(true);
  await userEvent.click(screen.getByRole('button', { name: 'Move Cress up' }));
  expect(picksOf(loop)).toEqual(['S-2', 'S-0']);
  await userEvent.click(screen.getByRole('button', { name: 'Take Aster out' }));
  expect(picksOf(loop)).toEqual(['S-2']);
  await userEvent.click(screen.getByRole('button', { name: 'Done' }));
  expect(await screen.findByRole('button', { name: '1 product picked by hand' })).toBeTruthy();
});

it('it is not offered for lists that are no catalog, and says what went wrong', async () => {
  await shown('cart.lines');
  expect(screen.queryByRole('button')).toBeNull();
  cleanup();
  await shown('catalog.garden', true);
  await userEvent.click(await screen.findByRole('button', { name: 'Pick products by hand' }));
  expect((await screen.findByRole('alert')).textContent).toBe('The catalog cannot be read.');
});
