/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type StoredOccasion } from '@carafe/contract';
import { FIRST_RULES, noFigures, Occasion, presets } from '@carafe/core/occasion';
import { api } from '../../app/api';
import { occasionsApi } from '../../app/occasionsApi';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { OccasionsPlace } from './OccasionsPlace';

const FIRST = Occasion.parse({
  ...{ name: 'Cart left', start: { kind: 'cart_left' }, whom: { guests: true }, priority: 5 },
  steps: [
    { id: 'w', kind: 'wait', for: { n: 3, unit: 'hours' } },
    { id: 'a', kind: 'send', template: 't1', mail: 'marketing', mode: 'held', to: 'person' },
  ],
});
const [PRESET] = presets(new Proxy({}, { get: () => 't1' }) as never);

/** A server with one occasion, which keeps what it is changed to. */
function server(more: (sent: Sent) => { status?: number; body?: unknown } | null = () => null) {
  let stored: StoredOccasion = {
    ...{ id: 'o1', occasion: FIRST, version: 1, published: null, on_since: null, differs: true },
    ...{ problems: [], inside: 2, armed: 1, next: null },
    steps: [{ step: 'a', waiting: 2, mails: { held: 3 } }],
  };
  return fakeServer((sent) => {
    const own = more(sent);
    if (own) return own;
    const is = (name: keyof typeof ENDPOINTS) => isFor(ENDPOINTS[name], sent);
    if (is('listShops'))
      return { body: { shops: [{ id: 's', name: 'S', timezone: 'America/New_York' }] } };
    if (is('occasionPresets')) return { body: { presets: [PRESET] } };
    if (is('listOccasions')) return { body: { occasions: [stored], rules: FIRST_RULES } };
    if (is('changeOccasion')) {
      const { version, occasion } = sent.body as { version: number; occasion: Occasion };
      if (version !== stored.version) return refusal(409, 'Changed elsewhere.');
      stored = { ...stored, version: version + 1, occasion };
      return { body: stored };
    }
    if (is('addOccasion')) return { status: 201, body: { ...stored, id: 'o2' } };
    if (is('beforePublishing'))
      return { body: { inside: [{ version: 1, people: 2 }], audience: null } };
    if (is('publishOccasion')) {
      stored = { ...stored, published: 1, on_since: new Date().toISOString(), differs: false };
      return { body: stored };
    }
    if (is('listTemplates'))
      return {
        body: { templates: [{ id: 't1', name: 'The bench', shop: 's', version: 1, reads: [] }] },
      };
    if (is('listSources')) return { body: { sources: [] } };
    if (is('listSegments'))
      return {
        body: {
          segments: [{ name: 'Regulars', formula: 'person.orders_count >= 3', used_by: [] }],
        },
      };
    if (is('audience')) return { body: { of: 10, holds: 4, yes: null, no: null } };
    if (is('shape')) return { body: { kind: 'any' } };
    if (is('clock')) return { body: { now: new Date().toISOString(), moved: 0 } };
    if (is('listRecipients')) {
      const ann = { id: 1, email: 'ann@q.example', name: 'Ann', lines: 2, orders: 1 };
      return { body: { total: 1, recipients: [ann] } };
    }
    if (is('walk'))
      return {
        body: {
          lines: [
            {
              ...{ at: '2026-11-20T10:00:00.000Z', kind: 'asked', occasion: 'o1', cause: 'c' },
              ...{ step: 'w', text: 'Only if cart is filled: not met.', held: false },
              parts: [{ source: 'cart count', value: '0' }],
            },
          ],
        },
      };
    if (is('personWhy')) return { body: { inside: [], lines: [] } };
    if (is('someRecipients'))
      return {
        body: { recipients: [{ id: 7, email: 'bo@q.example', name: 'Bo', lines: 0, orders: 0 }] },
      };
    if (is('replay')) {
      const figures = noFigures();
      Object.assign(figures, { people: 5, entered: 4, reached: 3, mails: 3 });
      figures.days = [{ occasion: 'o1', step: 'a', counts: [1, 2] }];
      figures.stops = [{ occasion: 'o1', step: 'a', why: 'consent', count: 1, people: [7] }];
      const isFirst = (sent.body as { after: number }).after === 0;
      return {
        body: { figures, people: 10, next: isFirst ? 5 : null, from: '2026-11-01T00:00:00.000Z' },
      };
    }
    return {};
  });
}

beforeEach(() => {
  store.dispatch(api.util.resetApiState());
  globalThis.EventSource = class {
    close() {}
  } as never;
});
afterEach(cleanup);

const changes = (sent: Sent[]) =>
  sent
    .filter((one) => isFor(ENDPOINTS.changeOccasion, one))
    .map(({ body }) => (body as { occasion: Occasion }).occasion);

test('an occasion reads as sentences on its time line, with who is where', async () => {
  server();
  renderPart(<OccasionsPlace />);
  expect(await screen.findByText('When a cart has been quiet for 1 hour')).toBeTruthy();
  expect(screen.getByText(/Last activity\. Then no activity for 1 hour/)).toBeTruthy();
  expect(await screen.findByText('Send “The bench”, held for approval')).toBeTruthy();
  expect(screen.getByText('+4 h')).toBeTruthy();
  expect(screen.getByRole('link', { name: '3 held' }).getAttribute('href')).toBe(
    '/outbox?shop=s&occasion=o1&step=a&state=held',
  );
  expect(screen.getByText('3 people inside or about to enter')).toBeTruthy();
});

test('one person walks through it: each condition with its values', async () => {
  server();
  renderPart(<OccasionsPlace />);
  const walk = await screen.findByRole('region', { name: 'One person' });
  expect(await within(walk).findByText(/not met/)).toBeTruthy();
  expect(within(walk).getByText('cart count: 0')).toBeTruthy();
});

test('each change is kept at its version, one after the other, and undone', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  await user.click(await screen.findByText('Wait 3 hours'));
  const hours = screen.getByRole('textbox', { name: 'Wait for' });
  await user.clear(hours);
  await user.type(hours, '12');
  expect(await screen.findByText('+13 h')).toBeTruthy();
  await user.click(screen.getAllByRole('button', { name: 'Delete the step' })[1] as HTMLElement);
  await waitFor(() => expect(changes(sent).at(-1)?.steps).toHaveLength(1));
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(changes(sent).at(-1)?.steps).toHaveLength(2));
  expect(screen.queryByRole('alert')).toBeNull();
});

test('a change that is refused is told, and stays on the screen', async () => {
  server((one) =>
    isFor(ENDPOINTS.changeOccasion, one)
      ? refusal(409, 'The occasion was changed elsewhere.')
      : null,
  );
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  await user.click(
    (await screen.findAllByRole('button', { name: 'Delete the step' }))[0] as HTMLElement,
  );
  expect((await screen.findByRole('alert')).textContent).toBe(
    'The occasion was changed elsewhere.',
  );
  expect(screen.queryByText('Wait 3 hours')).toBeNull();
});

test('switching on says what it means first', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  await user.click(await screen.findByRole('button', { name: 'Switch on' }));
  const dialog = await screen.findByRole('dialog');
  expect(
    await within(dialog).findByText(/Emails of 1 step wait in the outbox for your approval/),
  ).toBeTruthy();
  await user.click(within(dialog).getByRole('button', { name: 'Switch on' }));
  expect(await screen.findByText('On, same as this draft')).toBeTruthy();
  expect(sent.filter((one) => isFor(ENDPOINTS.publishOccasion, one))).toHaveLength(1);
});

test('one that is shipped is added, or an empty one', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  await screen.findByText('When a cart has been quiet for 1 hour');
  await user.click(screen.getByRole('button', { name: 'Add an occasion' }));
  const dialog = await screen.findByRole('dialog', { name: 'Add an occasion' });
  await user.click(within(dialog).getByRole('button', { name: /^Cart left/ }));
  await waitFor(() =>
    expect(sent.filter((one) => isFor(ENDPOINTS.addOccasion, one)).map(({ body }) => body)).toEqual(
      [PRESET],
    ),
  );
  // This server lists the old one alone: what is not there is not answered with another.
  expect(await screen.findByText(/no longer exists/)).toBeTruthy();
  expect(screen.queryByRole('region', { name: 'Occasion' })).toBeNull();
  await user.click(screen.getByRole('button', { name: /^Cart left/ }));
  expect(await screen.findByRole('region', { name: 'Occasion' })).toBeTruthy();
});

test('a replay adds up what some people at a time come to, with why not and to whom', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  const part = await screen.findByRole('region', { name: 'Replay and rehearsal' });
  await user.click(within(part).getByRole('button', { name: 'Replay' }));
  expect((await within(part).findByTestId('replayed')).textContent).toMatch(/^\d+ emails/);
  await waitFor(() =>
    expect(within(part).getByTestId('replayed').textContent).toBe(
      '6 emails to 6 people. Entered: 8 times; 10 of 10 people checked.',
    ),
  );
  expect(within(part).getByRole('img', { name: 'Emails per day: 6 in 60 days' })).toBeTruthy();
  // It began at midnight by UTC, which is the 31st of October in the shop.
  const days = within(part).getAllByText(/^31 Oct: 2/);
  expect(days.map(({ tagName }) => tagName)).toEqual(['title']);
  expect(within(part).getByText('Has not agreed to marketing')).toBeTruthy();
  await user.click(await within(part).findByRole('button', { name: 'Bo' }));
  await waitFor(() =>
    expect(
      sent
        .filter((one) => isFor(ENDPOINTS.walk, one))
        .map(({ body }) => (body as { person: number }).person),
    ).toContain(7),
  );
});

test('segments are listed with how many people are in them, and what is wrong is told', async () => {
  server((one) =>
    isFor(ENDPOINTS.deleteSegment, one) ? refusal(409, '“Regulars” is used by “Cart left”.') : null,
  );
  const user = userEvent.setup();
  renderPart(<OccasionsPlace />);
  await screen.findByText('When a cart has been quiet for 1 hour');
  await user.click(screen.getByRole('button', { name: 'Segments' }));
  const sheet = await screen.findByRole('dialog', { name: 'Segments' });
  expect(await within(sheet).findByText('orders count is at least 3')).toBeTruthy();
  expect(await within(sheet).findByText('4 of 10 people')).toBeTruthy();
  await user.click(within(sheet).getByRole('button', { name: 'Add a segment' }));
  expect(within(sheet).getByRole('textbox', { name: 'Name' })).toBeTruthy();
});

test('whoever is walked through stays, though another cart comes first meanwhile', async () => {
  let first = { id: 1, email: 'ann@q.example', name: 'Ann', lines: 2, orders: 1 };
  server((one) =>
    isFor(ENDPOINTS.listRecipients, one) ? { body: { total: 1, recipients: [first] } } : null,
  );
  renderPart(<OccasionsPlace />);
  const walk = await screen.findByRole('region', { name: 'One person' });
  const who = within(walk).getByRole<HTMLInputElement>('combobox', { name: 'Person' });
  await waitFor(() => expect(who.value).toBe('Ann'));
  first = { ...first, id: 2, email: 'bo@q.example', name: 'Bo' };
  await act(async () => {
    for (const asked of [
      { shop: 's', having: 'cart' as const, limit: 1 },
      { shop: 's', having: 'all' as const, q: '', limit: 12 },
    ])
      await store.dispatch(
        occasionsApi.endpoints.recipients.initiate(asked, { forceRefetch: true, subscribe: false }),
      );
  });
  // The other one is found by now, and is not taken for whoever is shown.
  await userEvent.setup().click(who);
  expect(await screen.findByRole('option', { name: 'Bo bo@q.example' })).toBeTruthy();
  expect(who.value).toBe('Ann');
});
