/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type MailSettings } from '@carafe/contract';
import { plainErrors } from '@carafe/core/errors';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { MailSettingsForm } from './MailSettingsForm';

plainErrors();
const FIRST: MailSettings = {
  server: { kind: 'mailbox' },
  test_addresses: ['designer@q.example'],
  ...{ test_only: true, per_minute: 0, count_clicks: true, count_opens: true, links_days: 180 },
  ...{ in_doubt: 'ask', keep_days: 365 },
};

function server(settings = FIRST, refused?: string) {
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.mailSettings, one))
      return {
        body: { settings, password: false, dkim_key: false, self: 'http://127.0.0.1:4600' },
      };
    if (isFor(ENDPOINTS.tryMailServer, one)) return { body: { ok: true, message: 'It answers.' } };
    return refused ? refusal(409, refused) : { body: one.body };
  });
  const closed = jest.fn();
  renderPart(<MailSettingsForm onClose={closed} />);
  return { sent, closed };
}
const saved = (sent: Sent[]) =>
  sent.filter((one) => isFor(ENDPOINTS.changeMailSettings, one)).map(({ body }) => body);
const save = (user: ReturnType<typeof userEvent.setup>, name = 'Save') =>
  user.click(screen.getByRole('button', { name }));

beforeEach(() => {
  store.dispatch(api.util.resetApiState());
});
afterEach(cleanup);

test('what is not touched is saved as it was', async () => {
  const { sent, closed } = server({ ...FIRST, public_url: 'https://mail.q.example' });
  await screen.findByRole('switch', { name: /^Test-only/ });
  await save(userEvent.setup());
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(saved(sent)).toEqual([{ ...FIRST, public_url: 'https://mail.q.example' }]);
});

test('what is counted, kept, signed, and how fast mails go is set', async () => {
  const user = userEvent.setup();
  const { sent, closed } = server();
  await user.click(await screen.findByRole('switch', { name: /^Count clicks/ }));
  await user.click(screen.getByRole('switch', { name: /^Sign emails/ }));
  await user.type(screen.getByRole('textbox', { name: 'Domain' }), 'q.example');
  await user.type(screen.getByRole('textbox', { name: 'Selector' }), 'post');
  for (const [name, n] of [
    [/^Emails per minute/, '600'],
    [/^Links work/, '30'],
    [/^Keep sent emails/, '90'],
  ] as const) {
    const field = screen.getByRole('textbox', { name });
    await user.clear(field);
    await user.type(field, n);
  }
  await user.click(screen.getByRole('combobox', { name: /did not answer after taking/ }));
  await user.click(await screen.findByRole('option', { name: 'count it as sent' }));
  await save(user);
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(saved(sent)).toEqual([
    {
      ...{ ...FIRST, count_clicks: false, per_minute: 600, links_days: 30, keep_days: 90 },
      ...{ in_doubt: 'sent', dkim: { domain: 'q.example', selector: 'post' } },
    },
  ]);
});

test('what cannot be is told at its field, which is gone to, and nothing is saved', async () => {
  const user = userEvent.setup();
  const { sent } = server();
  await user.type(
    await screen.findByRole('textbox', { name: /^Public address of/ }),
    'ftp://q.example',
  );
  await user.clear(screen.getByRole('textbox', { name: /^Links work/ }));
  await save(user);
  const address = screen.getByRole('textbox', { name: /^Public address of/ });
  expect(await screen.findByText('An address begins with http:// or https://.')).toBeTruthy();
  expect(document.activeElement).toBe(address);
  // No library’s own words.
  const days = screen.getByRole('textbox', { name: /^Links work/ });
  const said = days.closest('.mantine-InputWrapper-root')?.textContent;
  expect(said).toMatch(/Unsubscribe links always work\.This must be a number/);
  expect(days.getAttribute('aria-invalid')).toBe('true');
  expect(saved(sent)).toEqual([]);
});

test('a server is tried before it is saved; letting mails go to people is asked once more', async () => {
  const user = userEvent.setup();
  const { sent, closed } = server();
  await user.click(await screen.findByText('Your mail server'));
  await user.click(screen.getByRole('button', { name: 'Try it' }));
  expect(screen.getByText('A mail server has a host name.')).toBeTruthy();
  await user.type(screen.getByRole('textbox', { name: 'Host' }), 'smtp.q.example');
  await user.click(screen.getByRole('button', { name: 'Try it' }));
  expect(within(await screen.findByRole('status')).getByText('It answers.')).toBeTruthy();
  // As long as it is test-only nothing leaves, whatever the server.
  await user.click(screen.getByRole('switch', { name: /^Test-only/ }));
  await save(user);
  expect((await screen.findByRole('alert')).textContent).toMatch(
    /^From now on, emails go to real people.*127\.0\.0\.1:4600, which only this machine can reach\.$/,
  );
  expect(saved(sent)).toEqual([]);
  // Whatever is changed meanwhile is asked about anew.
  await user.click(screen.getByRole('switch', { name: /^Count opens/ }));
  expect(screen.queryByRole('alert')).toBeNull();
  await save(user);
  await save(user, 'Send to real people');
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(saved(sent)).toMatchObject([
    { test_only: false, count_opens: false, server: { kind: 'smtp', host: 'smtp.q.example' } },
  ]);
});

test('what the server refuses is told, and the form stays as it is', async () => {
  const { closed } = server(FIRST, 'The clock here is ahead of the real time.');
  await screen.findByRole('switch', { name: /^Test-only/ });
  await save(userEvent.setup());
  expect(await screen.findByText('The clock here is ahead of the real time.')).toBeTruthy();
  expect(closed).not.toHaveBeenCalled();
});
