/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { Notifications } from '@mantine/notifications';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type OutboxItem, type OutboxMail } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, queryOf, renderPart, type Sent } from '../../testing';
import { OutboxPlace } from './OutboxPlace';

// Nothing has a size here: every row counts as seen.
jest.mock('@tanstack/react-virtual', () => ({
  useVirtualizer: ({ count }: { count: number }) => ({
    getVirtualItems: () =>
      Array.from({ length: count }, (_, index) => ({
        index,
        start: index * 38,
        end: index * 38 + 38,
      })),
    getTotalSize: () => count * 38,
  }),
}));

const AT = '2026-11-24T09:00:00.000Z';
const item = (id: string, more: Partial<OutboxItem> = {}): OutboxItem => ({
  ...{ id, email: `${id}@q.example`, to: null, recipient: 'person', mail: 'marketing', version: 1 },
  ...{
    occasion: 'o1',
    occasion_name: 'Cart left',
    step: 'a',
    template: 't1',
    template_name: 'The bench',
  },
  ...{ state: 'held', reason: null, subject: null, made_at: AT, next_at: AT, sent_at: null },
  ...{
    opened_at: null,
    clicked_at: null,
    attempts: 0,
    name: 'Maud Fenwick',
    test_only: false,
    ended_by_server: false,
  },
  ...more,
});
const MAILS = [
  item('ann'),
  item('bo', { state: 'in_doubt', subject: 'Hello Bo', reason: 'Carafe was stopped.' }),
];

const LEFT = {
  id: 'o1',
  occasion: {
    name: 'Cart left',
    steps: ['a', 'b'].map((id) => ({
      ...{ id, kind: 'send', template: 't1', mail: 'marketing', mode: 'held', to: 'person' },
    })),
  },
};

function server(changed = 1, all = MAILS): Sent[] {
  return fakeServer((sent) => {
    const is = (name: keyof typeof ENDPOINTS) => isFor(ENDPOINTS[name], sent);
    if (is('listShops')) return { body: { shops: [{ id: 's', name: 'S' }] } };
    if (is('listOccasions')) return { body: { occasions: [LEFT], rules: {} } };
    if (is('listTemplates')) return { body: { templates: [{ id: 't1', name: 'The bench' }] } };
    if (is('clock')) return { body: { now: AT, moved: 0 } };
    if (is('outboxSummary'))
      return {
        body: {
          states: [
            { state: 'held', count: 1 },
            { state: 'in_doubt', count: 1 },
            { state: 'bounced', count: 2 },
          ],
          ...{
            paused: 'Nothing answers at mail.q.example:25.',
            paused_until: AT,
            stays_here: true,
          },
        },
      };
    if (is('listOutbox')) {
      const isHeld = sent.path.includes('state=held');
      const mails = isHeld ? all.slice(0, 1) : all;
      return { body: { total: mails.length, mails } };
    }
    if (is('changeOutbox')) return { body: { changed } };
    if (is('failedAddresses')) {
      const address = { email: 'gone@q.example', at: AT, reason: '550 No such box.' };
      return { body: { total: 1, addresses: [address] } };
    }
    if (is('allowAddress')) return { status: 204, body: null };
    if (is('settleOutbox')) return { status: 204, body: null };
    if (is('readOutbox')) {
      const found = all.find(({ id }) => sent.path.endsWith(id)) ?? all[0];
      const mail: OutboxMail = {
        ...{
          item: found as OutboxItem,
          html: '<p>Hello</p>',
          text: 'Hello',
          headers: 'Subject: x',
        },
        ...{ trail: [], links: ['https://q.example/cart'], filled: false, stopped: null },
        story: [
          { at: AT, text: 'Entered.', parts: [] },
          {
            ...{ at: AT, text: 'Only if how many cart lines is at least 2; else stop: met.' },
            parts: [
              { source: 'cart lines', value: '3' },
              { source: '', value: 'price is over £3.00 for 2 of 3 cart lines' },
            ],
          },
        ],
      };
      return { body: mail };
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
  sent.filter((one) => isFor(ENDPOINTS.changeOutbox, one)).map(({ body }) => body);

test('mails stand with their state and reason; why nothing leaves is told', async () => {
  server();
  renderPart(<OutboxPlace />);
  expect(
    await screen.findByText(/Sending is paused\. Nothing answers at mail\.q\.example:25\./),
  ).toBeTruthy();
  expect(await screen.findByRole('button', { name: 'ann@q.example' })).toBeTruthy();
  expect(screen.getByText('Carafe was stopped.')).toBeTruthy();
  expect(screen.getByText(/goes to the stand-in mailbox and to nobody else/)).toBeTruthy();
  expect(screen.getByRole('link', { name: 'CSV' }).getAttribute('href')).toBe(
    '/api/shops/s/outbox.csv',
  );
});

test('all that are held are approved at once; the files follow what is asked for', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('radio', { name: /^Held 1/ }));
  expect(screen.getByRole('link', { name: 'NDJSON' }).getAttribute('href')).toBe(
    '/api/shops/s/outbox.ndjson?state=held',
  );
  await user.click(await screen.findByRole('button', { name: 'Approve all 1' }));
  await waitFor(() => expect(changes(sent)).toEqual([{ to: 'approve', query: { state: 'held' } }]));
});

test('some mails are chosen, each is offered what can be done with it, and what was missed is told', async () => {
  const sent = server(0);
  const user = userEvent.setup();
  renderPart(
    <>
      <Notifications />
      <OutboxPlace />
    </>,
  );
  await user.click(await screen.findByRole('checkbox', { name: /ann@q\.example/ }));
  await user.keyboard('{Shift>}');
  await user.click(screen.getByRole('checkbox', { name: /bo@q\.example/ }));
  await user.keyboard('{/Shift}');
  expect(screen.getByText('2 emails chosen')).toBeTruthy();
  // One is held, the other in doubt, which somebody settles by itself.
  expect(screen.getByRole('button', { name: 'Stop 1' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Resume/ })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Approve 1' }));
  await waitFor(() => expect(changes(sent)).toEqual([{ to: 'approve', ids: ['ann'] }]));
  expect(await screen.findByText(/^1 email was not changed: no longer held/)).toBeTruthy();
  expect(await screen.findByText('2 emails')).toBeTruthy();
});

test('what is chosen goes when others are looked at; those of one occasion and step are asked for', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('checkbox', { name: /ann@q\.example/ }));
  await user.click(screen.getByRole('combobox', { name: 'Occasion' }));
  await user.click(await screen.findByRole('option', { name: 'Cart left' }));
  await waitFor(() => expect(screen.queryByText('1 email chosen')).toBeNull());
  await user.click(screen.getByRole('combobox', { name: 'Step' }));
  await user.click(await screen.findByRole('option', { name: '2. Send “The bench”' }));
  await waitFor(() =>
    expect(
      sent
        .filter((one) => isFor(ENDPOINTS.listOutbox, one))
        .map(queryOf)
        .at(-1),
    ).toMatchObject({ occasion: 'o1', step: 'b' }),
  );
});

test('one mail tells its story, is approved, and shows what it holds', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('button', { name: 'ann@q.example' }));
  const sheet = await screen.findByRole('dialog');
  expect(await within(sheet).findByText('Entered.')).toBeTruthy();
  const said = 'cart lines: 3 · price is over £3.00 for 2 of 3 cart lines';
  expect(within(sheet).getByText(said)).toBeTruthy();
  expect(within(sheet).getByText(/Shown as it would be filled now/)).toBeTruthy();
  await user.click(within(sheet).getByText('Text'));
  expect(within(sheet).getByLabelText('text').textContent).toBe('Hello');
  await user.click(within(sheet).getByText('Links'));
  expect(within(sheet).getByText('https://q.example/cart')).toBeTruthy();
  await user.click(within(sheet).getByRole('button', { name: 'Approve' }));
  await waitFor(() => expect(changes(sent)).toEqual([{ to: 'approve', ids: ['ann'] }]));
});

test('what the mail server refused is tried again, one or many', async () => {
  const refused = { reason: 'No such user (550).', ended_by_server: true };
  const bounced = { ...refused, state: 'bounced' as const };
  const sent = server(1, [item('cy', bounced), item('di', bounced)]);
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('checkbox', { name: /cy@q\.example/ }));
  await user.click(screen.getByRole('button', { name: 'Try again 1' }));
  await waitFor(() => expect(changes(sent)).toEqual([{ to: 'try_again', ids: ['cy'] }]));
  await user.click(await screen.findByRole('button', { name: 'di@q.example' }));
  const sheet = await screen.findByRole('dialog');
  expect(await within(sheet).findByText('No such user (550).')).toBeTruthy();
  await user.click(within(sheet).getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(changes(sent)).toContainEqual({ to: 'try_again', ids: ['di'] }));
});

test('all that bounced are tried again at once', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('radio', { name: /^Bounced/ }));
  await user.click(await screen.findByRole('button', { name: /^Try all .* once more/ }));
  await waitFor(() =>
    expect(changes(sent)).toEqual([{ to: 'try_again', query: { state: 'bounced' } }]),
  );
});

test('a mail in doubt is settled by hand', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('button', { name: 'bo@q.example' }));
  const sheet = await screen.findByRole('dialog');
  await user.click(await within(sheet).findByRole('button', { name: 'It was sent' }));
  await waitFor(() =>
    expect(
      sent.filter((one) => isFor(ENDPOINTS.settleOutbox, one)).map(({ body }) => body),
    ).toEqual([{ as: 'sent' }]),
  );
});

test('before many are changed the number is said; the box in the head chooses all that are loaded', async () => {
  const many = Array.from({ length: 8 }, (_, i) => item(`p${i}`, { state: 'held' }));
  const sent = server(8, many);
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await screen.findByRole('checkbox', { name: /p0@q\.example/ });
  expect(screen.getAllByText('Maud Fenwick').length).toBeGreaterThan(0);
  await user.click(screen.getByRole('checkbox', { name: /Choose all emails/ }));
  const chosen = await screen.findByText(/^\d emails chosen$/);
  const count = Number.parseInt(chosen.textContent ?? '', 10);
  expect(count).toBeGreaterThan(5);
  await user.click(screen.getByRole('button', { name: `Stop ${count}` }));
  const dialog = await screen.findByRole('dialog', { name: `Stop: ${count} emails` });
  expect(within(dialog).getByText(/They are not sent/)).toBeTruthy();
  await user.click(within(dialog).getByRole('button', { name: 'Cancel' }));
  expect(changes(sent)).toEqual([]);
  await user.click(screen.getByRole('button', { name: `Stop ${count}` }));
  await user.click(await screen.findByRole('button', { name: `Stop: ${count} emails` }));
  await waitFor(() => expect(changes(sent)).toHaveLength(1));
  expect(changes(sent)[0]).toMatchObject({ to: 'stop' });
});

test('the subject opens an email, too', async () => {
  server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByText('Hello Bo'));
  expect(await screen.findByRole('dialog')).toBeTruthy();
});

test('addresses that failed are listed with the reason, and allowed again', async () => {
  const sent = server();
  const user = userEvent.setup();
  renderPart(<OutboxPlace />);
  await user.click(await screen.findByRole('button', { name: 'Failed addresses' }));
  const sheet = within(await screen.findByRole('dialog', { name: 'Failed addresses' }));
  expect(await sheet.findByText(/550 No such box\./)).toBeTruthy();
  await user.click(sheet.getByRole('button', { name: 'Allow gone@q.example again' }));
  await waitFor(() =>
    expect(
      sent.filter((one) => isFor(ENDPOINTS.allowAddress, one)).map(({ body }) => body),
    ).toEqual([{ email: 'gone@q.example' }]),
  );
});
