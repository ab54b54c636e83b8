/** @jest-environment jsdom */
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type Shop, type SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled, type Sent } from '../../testing';
import { NewSource } from './NewSource';

const SHOPS = [{ id: 'seeds', name: 'Seeds' }] as Shop[];
const TAKERS = [
  { id: 'old', name: 'Garden', kind: 'file', target: 'catalog' },
  { id: 'far', name: 'Feed', kind: 'address', target: 'feed' },
] as SourceSummary[];

/** Opens the form; what it did is kept. */
function shown(reply: Parameters<typeof fakeServer>[0], file: File | null = null) {
  const did: string[] = [];
  store.dispatch(api.util.resetApiState());
  const sent = fakeServer(reply);
  renderPart(
    <NewSource
      shops={SHOPS}
      sources={TAKERS}
      file={file}
      onClose={() => did.push('closed')}
      onSend={(source, { name }) => Promise.resolve(void did.push(`${name} to ${source}`))}
    />,
  );
  return { did, sent };
}
const made = { body: { id: 'new' } };
const bodies = (sent: Sent[]) => sent.map(({ body }) => body as Record<string, unknown>);
const submit = (name: string) => userEvent.click(screen.getByRole('button', { name }));
afterEach(cleanup);

describe('a new source', () => {
  it('made of a file is named after it, and the file is sent to it', async () => {
    const { did, sent } = shown(() => made, new File(['sku'], 'spring.catalog.csv'));
    await submit('Continue');
    await waitFor(() => expect(did).toEqual(['spring.catalog.csv to new', 'closed']));
    expect(bodies(sent)).toEqual([
      {
        ...{ kind: 'file', target: 'catalog', shop: 'seeds' },
        ...{ name: 'spring.catalog', formula_name: 'spring_catalog' },
      },
    ]);
  });

  it('a dropped file can go into a source that there is, where files go', async () => {
    const { did, sent } = shown(() => made, new File(['sku'], 'spring.csv'));
    await userEvent.click(screen.getByRole('combobox', { name: 'Add to' }));
    expect(screen.queryByRole('option', { name: 'Feed' })).toBeNull();
    await userEvent.click(await screen.findByRole('option', { name: 'Garden' }));
    expect(screen.queryByLabelText(/^Name/)).toBeNull();
    await submit('Continue');
    await waitFor(() => expect(did).toEqual(['spring.csv to old', 'closed']));
    expect(sent).toEqual([]);
  });

  it('without a name is not asked for, and says so beside the field', async () => {
    const { did, sent } = shown(() => made);
    await submit('Create');
    const name = screen.getByLabelText(/^Name \*|^Name$/);
    expect(name.getAttribute('aria-invalid')).toBe('true');
    expect(document.body.textContent).not.toMatch(/Invalid input|expected string/);
    expect([did, sent]).toEqual([[], []]);
  });

  it('of an address is fetched at once; a refusal keeps what was typed, and the next try goes on', async () => {
    let isBroken = true;
    const { did, sent } = shown((one) => {
      if (isFor(ENDPOINTS.fetchSource, one) && isBroken)
        return refusal(422, 'This address does not answer.');
      return isFor(ENDPOINTS.fetchSource, one) ? { body: { look: null, source: {} } } : made;
    });
    await userEvent.click(screen.getByRole('radio', { name: /address/i }));
    await userEvent.type(screen.getByLabelText(/^Name/, { selector: '[data-autofocus]' }), 'Posts');
    await userEvent.type(
      screen.getByRole('textbox', { name: /^Address/ }),
      'https://posts.example/feed',
    );
    await submit('Continue');
    await waitFor(() =>
      expect(screen.getByRole('alert').textContent).toContain('This address does not answer.'),
    );
    expect(did).toEqual([]);
    isBroken = false;
    await submit('Continue');
    await waitFor(() => expect(did).toEqual(['closed']));
    // Made once, changed by the second try.
    expect(sent.map(({ method, path }) => `${method} ${path}`)).toEqual([
      'POST /sources',
      'POST /sources/new/fetch',
      'PATCH /sources/new',
      'POST /sources/new/fetch',
    ]);
    expect(bodies(sent)[0]).toMatchObject({
      kind: 'address',
      address: 'https://posts.example/feed',
      every_minutes: 1440,
    });
  });

  it('a shop can be added on the way, and is the one chosen then', async () => {
    const { sent } = shown((one) =>
      isFor(ENDPOINTS.createShop, one) ? { body: one.body } : { body: { shops: SHOPS } },
    );
    await userEvent.click(screen.getByRole('combobox', { name: 'Shop' }));
    await userEvent.click(await screen.findByRole('option', { name: /Add a shop/ }));
    await userEvent.type(screen.getByLabelText(/^Name/), 'Bulbs');
    await userEvent.type(screen.getByLabelText(/^Short name/), 'bulbs');
    const zone = screen.getByRole('combobox', { name: /^Time zone/ });
    await userEvent.clear(zone);
    await userEvent.type(zone, 'paris');
    await userEvent.click(await screen.findByRole('option', { name: 'Europe, Paris' }));
    const url = screen.getByLabelText(/^Web address/);
    await userEvent.clear(url);
    await submit('Create');
    expect(url.getAttribute('aria-invalid')).toBe('true');
    expect(sent.some((one) => isFor(ENDPOINTS.createShop, one))).toBe(false);
    await userEvent.type(url, 'https://bulbs.example');
    await submit('Create');
    await settled();
    expect(bodies(sent.filter((one) => isFor(ENDPOINTS.createShop, one)))[0]).toMatchObject({
      id: 'bulbs',
      timezone: 'Europe/Paris',
    });
  });
});
