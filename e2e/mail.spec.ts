import { axeFinds, axeFindsInBoth } from './axe';
import { expect, test } from './carafe';
import { simpleParser } from 'mailparser';
import { copyOf, htmlFor, inspector, line, openDesk, saved } from './desk';

const CART = 'You left these on the potting bench';

test('a test is sent from the desk and read in the mailbox: the recipient’s mail, to the byte', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'For a test');
  await openDesk(page, id);
  const html = await htmlFor(page, 'maud.fennimore1@post.example');
  await page.getByRole('button', { name: 'Send a test' }).click();
  const dialog = page.getByRole('dialog', { name: 'Send yourself a test' });
  await expect(dialog.getByText('As Maud Fennimore would get it')).toBeVisible();
  await dialog.getByRole('button', { name: 'Send' }).click();
  await page.getByRole('link', { name: 'Open the mailbox' }).click();
  const mails = page.getByRole('list', { name: 'Mails' });
  await expect(mails.getByRole('button').first()).toContainText('Maud, your Long Tom pot');
  await expect(
    page.frameLocator('iframe[title="The email as it arrived"]').getByText('Long Tom pot').first(),
  ).toBeVisible();
  const { mails: all } = (await (await request.get('/api/mailbox')).json()) as {
    mails: { id: string; to: string[] }[];
  };
  expect(all[0]?.to).toEqual(['designer@quillmoss.example']);
  const source = await (await request.get(`/api/mailbox/${all[0]?.id ?? ''}.eml`)).body();
  const parsed = await simpleParser(source);
  expect(parsed.html).toBe(html);
  expect(JSON.stringify(parsed.headers.get('list'))).toContain('unsubscribe');
  for (const name of ['Text', 'Headers', 'Source']) {
    await page
      .getByRole('radiogroup', { name: 'What is shown' })
      .getByText(name, { exact: true })
      .click();
    await expect(page.getByLabel('As it arrived')).toBeVisible();
  }
  expect(await axeFindsInBoth(page)).toEqual([]);
});

test('a mail server that is not there is told in words, and an address is added for tests', async ({
  page,
  request,
}) => {
  const before = (await (await request.get('/api/mail/settings')).json()) as { settings: object };
  await page.goto('/outbox');
  await page.getByRole('button', { name: 'Email settings' }).click();
  const dialog = page.getByRole('dialog', { name: 'Email settings' });
  await dialog.getByText('Your mail server').click();
  await dialog.getByLabel('Host').fill('127.0.0.1');
  await dialog.getByLabel('Port').fill('1');
  await dialog.getByRole('button', { name: 'Try it' }).click();
  await expect(dialog.getByRole('status')).toHaveText(
    'Nothing answers at 127.0.0.1:1. Check the host and the port.',
  );
  await dialog.getByText('Stand-in mailbox', { exact: true }).click();
  const addresses = dialog.getByRole('combobox', { name: 'Addresses for tests' });
  await addresses.fill('no address');
  await addresses.press('Enter');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByText('An address looks like name@shop.example.')).toBeVisible();
  await expect(addresses).toBeFocused();
  await addresses.press('Backspace');
  await addresses.fill('boss@quillmoss.example');
  await addresses.press('Enter');
  await dialog.getByRole('switch', { name: /^Count opens/ }).click();
  await dialog.getByRole('textbox', { name: /^Keep sent emails/ }).fill('90');
  expect(await axeFindsInBoth(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
  const after = (await (await request.get('/api/mail/settings')).json()) as {
    settings: { test_addresses: string[] };
    version: string;
  };
  expect(after.settings.test_addresses).toContain('boss@quillmoss.example');
  expect(after.settings).toMatchObject({ test_only: true, count_opens: false, keep_days: 90 });
  const { version } = after;
  await request.put('/api/mail/settings', { params: { version }, data: before.settings });
});

test('a template is published, edited on, told what differs, and gone back to', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'To publish');
  await openDesk(page, id);
  const dialog = page.getByRole('dialog', { name: 'Publish' });
  const open = () => page.getByRole('button', { name: 'Publish', exact: true }).first().click();
  await open();
  await expect(dialog.getByText(/^Nothing is published yet/)).toBeVisible();
  await dialog.getByLabel('Note').fill('For autumn');
  await dialog.getByRole('button', { name: 'Publish' }).click();
  await expect(dialog).toHaveCount(0);
  await line(page, 'Back to the bench').click();
  await inspector(page).getByRole('textbox', { name: 'Label', exact: true }).fill('To the till');
  await saved(page);
  await open();
  await expect(dialog.getByRole('region', { name: 'What differs' })).toContainText('To the till');
  await expect(dialog.getByRole('list', { name: 'Published' })).toContainText('For autumn');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Restore as the draft' }).click();
  await expect(line(page, 'Back to the bench')).toBeVisible();
  await saved(page);
  await open();
  await expect(dialog.getByText('Both are the same.')).toBeVisible();
});
