/** @jest-environment jsdom */
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StoredShop } from '@carafe/contract';
import { fakeServer, queryOf, refusal, renderPart, type Sent } from '../../testing';
import { ShopForm } from './ShopForm';

const SEEDS: StoredShop = {
  version: 'v1',
  ...{ id: 'seeds', name: 'Seeds', url: 'https://seeds.example', address: 'The Mill', logo: '' },
  ...{ currency: 'GBP', locale: 'en-GB', timezone: 'Europe/London' },
};
function shown(shop: StoredShop | null, reply: Parameters<typeof fakeServer>[0]) {
  const saved: StoredShop[] = [];
  const sent: Sent[] = fakeServer(reply);
  renderPart(
    <ShopForm shop={shop} onClose={() => undefined} onSaved={(one) => void saved.push(one)} />,
  );
  return { saved, sent };
}
afterEach(cleanup);

describe('the settings of a shop', () => {
  it('are saved with where recipients find pictures; the id is not asked for', async () => {
    const { saved, sent } = shown(SEEDS, ({ body }) => ({
      body: { ...(body as object), version: 'v2' },
    }));
    expect(screen.queryByLabelText(/Short name/)).toBeNull();
    await userEvent.type(
      screen.getByLabelText(/Where recipients find pictures/),
      'https://p.example',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(saved).toEqual([{ ...SEEDS, version: 'v2', pictures: 'https://p.example' }]),
    );
    expect(sent[0]).toMatchObject({ method: 'PUT', body: { id: 'seeds' } });
    // What it was as it was read.
    expect(queryOf(sent[0] as Sent)).toEqual({ version: 'v1' });
  });

  it('that are none are told beside their field, and nothing is sent', async () => {
    const { saved, sent } = shown(SEEDS, () => ({ body: SEEDS }));
    await userEvent.clear(screen.getByLabelText(/Web address of the shop/));
    await userEvent.type(screen.getByLabelText(/Web address of the shop/), 'nowhere');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText(/A web address begins with/)).toBeTruthy();
    expect([saved, sent]).toEqual([[], []]);
  });

  it('that the server refuses keep what was typed and say why', async () => {
    const { saved } = shown(null, () => refusal(409, 'There is already a shop “seeds”.'));
    await userEvent.type(screen.getByLabelText(/^Name/), 'Seeds');
    await userEvent.type(screen.getByLabelText(/Short name/), 'seeds');
    await userEvent.type(screen.getByLabelText(/Web address of the shop/), 'seeds.example');
    await userEvent.click(screen.getByRole('button', { name: 'Create' }));
    expect((await screen.findByRole('alert')).textContent).toContain('already');
    expect(screen.getByLabelText<HTMLInputElement>(/Short name/).value).toBe('seeds');
    expect(saved).toEqual([]);
  });
});
