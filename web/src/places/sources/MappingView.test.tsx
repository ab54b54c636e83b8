/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ImportLook, Shop, SourceSummary } from '@carafe/contract';
import { lookAt, targetOf, type FileSettings, type TargetId } from '@carafe/core/intake';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, renderPart, settled } from '../../testing';
import type { Asked } from './asked';
import { MappingView } from './MappingView';

let last: FileSettings;

/** Shows a file as it is mapped by itself, for a source of a shop in pounds. */
async function shown(target: TargetId, text: string) {
  store.dispatch(api.util.resetApiState());
  fakeServer(() => ({
    body: { shops: [{ id: 'seeds', name: 'Seeds', currency: 'GBP' } as Shop] },
  }));
  const { settings, ...found } = lookAt(new TextEncoder().encode(text), targetOf(target));
  const look = { ...found, settings, problem: null } as unknown as ImportLook;
  function Page() {
    const [asked, setAsked] = useState<Asked>({ settings, mode: 'whole', raiseConsent: false });
    last = asked.settings;
    return (
      <MappingView
        source={{ target, shop: 'seeds', name: 'Files' } as SourceSummary}
        {...{ look, asked }}
        onChange={setAsked}
        onLookAgain={() => undefined}
        onCheck={() => undefined}
        onDiscard={() => undefined}
      />
    );
  }
  renderPart(<Page />);
  await settled();
}
const choose = async (label: string, option: string) => {
  await userEvent.click(screen.getByRole('combobox', { name: label }));
  await userEvent.click(await screen.findByRole('option', { name: option }));
};
const check = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Check every row' });
afterEach(cleanup);

describe('a needed field that the file does not contain', () => {
  const CARTS =
    'Email,product_1_name,product_1_price,product_2_name,product_2_price\na@b.example,Aster,2,Mohn,3';
  it('can get the time of the import, and another the shop’s currency', async () => {
    await shown('carts', CARTS);
    expect(screen.getByRole('alert').textContent).toContain('No column fills “Changed at”');
    expect(check().disabled).toBe(true);
    await choose('What every row gets as Changed at', 'The time of the import');
    await choose('Give every row', 'Currency');
    expect(last.mapping.fixed).toEqual([
      { to: 'updated_at', is: 'import_time' },
      { to: 'currency', is: 'value', value: 'GBP' },
    ]);
    expect(check().disabled).toBe(false);
    expect(screen.getByRole('columnheader', { name: 'currency' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Leave Currency out' }));
    expect(last.mapping.fixed).toHaveLength(1);
  });

  it('can get one value, which has to be said', async () => {
    await shown('carts', CARTS);
    await choose('What every row gets as Changed at', 'One value for every row');
    expect(screen.getByRole('alert').textContent).toContain(
      'Enter the value of “Changed at” for every row',
    );
    await userEvent.type(
      screen.getByRole('textbox', { name: 'The value of Changed at in every row' }),
      '2026-11-01',
    );
    expect(last.mapping.fixed).toEqual([{ to: 'updated_at', is: 'value', value: '2026-11-01' }]);
    expect(check().disabled).toBe(false);
  });
});

describe('rows that are lines', () => {
  const ORDERS =
    'Order,Email,Date,SKU,Price,Season\nN1,a@b.example,2026-01-02,A,2,spring\nN1,a@b.example,2026-01-02,B,1,spring';
  const placed = () =>
    last.mapping.columns.map(({ to, list }) => (list ? `lines.${to ?? ''}` : (to ?? '')));
  it('are found, can be taken apart, and a column can be moved to the line', async () => {
    await shown('orders', ORDERS);
    expect(placed()).toEqual([
      'number',
      'email',
      'placed_at',
      'lines.sku',
      'lines.price',
      'season',
    ]);
    await choose('What Season fills', 'Own field of the line');
    expect(placed().at(-1)).toBe('lines.season');
    await choose('What Season fills', 'Note');
    expect(placed().at(-1)).toBe('note');
    await userEvent.click(screen.getByRole('switch', { name: /Each row is one line of an order/ }));
    expect(placed()).toEqual(['number', 'email', 'placed_at', 'sku', 'price', 'note']);
    expect(screen.getByRole('alert').textContent).toContain('Neither the lines of each order');
    await userEvent.click(screen.getByRole('switch', { name: /Each row is one line of an order/ }));
    expect(placed().slice(3, 5)).toEqual(['lines.sku', 'lines.price']);
  });
});

it('the rows that will be stored show every field, also those that are blank in all of them', async () => {
  await shown('people', 'Email,First name\na@b.example,\nc@d.example,');
  expect(screen.getByRole('columnheader', { name: 'first_name' })).toBeTruthy();
});
