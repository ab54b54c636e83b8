import { axeFinds, axeFindsInBoth } from './axe';
import { expect, FIRST_PORT, NOW, test, type APIRequestContext, type Page } from './carafe';
import { moveClock } from './moveClock';
import { startServer } from './server';

// A mail to many, and what is chosen from lists by hand. The clock is moved here: these tests have a server of their own.

const SHOP = 'quillmoss-gb';
test.use({ actionTimeout: 20_000 });

let origin = '';
let stop = () => Promise.resolve();
test.beforeAll(async () => {
  ({ origin, stop } = await startServer(FIRST_PORT + 60, NOW));
});
test.afterAll(() => stop());
test.beforeEach(({ page }) => page.clock.install({ time: NOW }));

const json = async <T>(request: APIRequestContext, path: string): Promise<T> =>
  (await (await request.get(`${origin}/api${path}`)).json()) as T;
const received = async (request: APIRequestContext) =>
  (await json<{ mails: { id: string; to: string[] }[] }>(request, '/mailbox')).mails;

/** A new occasion that starts in some way, with its form. */
async function begun(page: Page, start: string) {
  await page.goto(`${origin}/occasions`);
  await page.getByRole('button', { name: 'Add an occasion' }).click();
  await page.getByRole('button', { name: /^Empty/ }).click();
  const form = page.getByRole('region', { name: 'Occasion', exact: true });
  const name = form.getByRole('textbox', { name: 'Name of the occasion' });
  await expect(name).toHaveValue('New occasion');
  await form.getByRole('combobox', { name: 'What starts it' }).click();
  await page.getByRole('option', { name: start, exact: true }).click();
  return form;
}
type Form = Awaited<ReturnType<typeof begun>>;

async function named(form: Form, name: string) {
  await form.getByRole('textbox', { name: 'Name of the occasion' }).fill(name);
  await form.getByRole('textbox', { name: 'Name of the occasion' }).press('Tab');
}

async function sends(page: Page, form: Form, template: string, mode = 'Held for approval') {
  await form.getByRole('button', { name: 'Add a step', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Send an email' }).click();
  await form.getByRole('combobox', { name: 'Template', exact: true }).click();
  await page.getByRole('option', { name: template, exact: true }).click();
  await form.getByText(mode, { exact: true }).click();
}

test('a letter: whom it is for is counted before, it is held, stopped in part, approved, resumed, and goes again next week', async ({
  page,
  request,
}) => {
  test.setTimeout(240_000);
  const { recipients } = await json<{ recipients: { email: string }[] }>(
    request,
    `/shops/${SHOP}/recipients?limit=12`,
  );
  const ids = await json<{ people: { data: { person: { consent: boolean } } }[] }>(
    request,
    `/shops/${SHOP}/people?ids=${(recipients as unknown as { id: number }[]).map(({ id }) => id).join(',')}`,
  );
  const agreed = ids.people.filter(({ data }) => data.person.consent).length;
  expect(agreed).toBeGreaterThan(4);

  const form = await begun(page, 'Once, at a time');
  await named(form, 'The letter');
  await form.getByText('For everybody').click();
  const addresses = form.getByRole('textbox', { name: 'Only these addresses' });
  const all = [...recipients.map(({ email }) => email), 'nobody@post.example'].join(', ');
  await addresses.fill(`${all}, wrong`);
  await addresses.press('Tab');
  await expect(form.getByText(/“wrong” is not an address/)).toBeVisible();
  await expect(form.locator('summary').first()).toHaveText('For everybody');
  await addresses.fill(all);
  await addresses.press('Tab');
  await expect(form.locator('summary').first()).toHaveText('For people with one of 13 addresses');
  await sends(page, form, 'The November letter');
  await form.getByRole('button', { name: 'In five minutes' }).click();
  await expect(
    form.getByText('Once, on Tuesday, 24 November 2026 at 09:0', { exact: false }),
  ).toBeVisible();

  await form.getByRole('button', { name: 'Switch on' }).click();
  const ask = page.getByRole('dialog', { name: 'Switch on' });
  await expect(ask.getByText(`It is for 12 people, of whom ${agreed} agreed`)).toBeVisible();
  await expect(ask.getByText('One of the addresses belongs to nobody in this shop')).toBeVisible();
  await expect(ask.getByText('The usual in every part')).toBeVisible();
  expect(await axeFindsInBoth(page)).toEqual([]);
  await ask.getByRole('button', { name: 'Switch on' }).click();
  await expect(form.getByText('On, same as this draft')).toBeVisible();
  await moveClock(page, 1, 'hours');
  await form.getByRole('link', { name: `${agreed} held` }).click();

  // Two are stopped, the others approved at once; one that was stopped goes after all.
  await expect(page.getByText(`${agreed} emails`)).toBeVisible();
  for (const n of [0, 1])
    await page
      .getByRole('checkbox', { name: /^Choose the email/ })
      .nth(n)
      .click();
  await expect(page.getByRole('status').filter({ hasText: 'chosen' })).toHaveText(
    '2 emails chosen',
  );
  await page.getByRole('button', { name: 'Stop 2' }).click();
  await page.getByText(`Held ${agreed - 2}`).click();
  await page.getByRole('button', { name: `Approve all ${agreed - 2}` }).click();
  await page.getByRole('button', { name: /^Approve: .* emails$/ }).click();
  await expect
    .poll(async () => (await received(request)).length, { timeout: 60_000 })
    .toBe(agreed - 2);
  await page.getByText('Stopped 2').click();
  await page
    .getByRole('checkbox', { name: /^Choose the email/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Resume 1' }).click();
  // It waits for approval again, as it did.
  await page.getByText('Held 1').click();
  await page
    .getByRole('checkbox', { name: /^Choose the email/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Approve 1' }).click();
  await expect
    .poll(async () => (await received(request)).length, { timeout: 60_000 })
    .toBe(agreed - 1);
  const to = (await received(request)).map(({ to: [address] }) => address);
  expect(new Set(to).size).toBe(agreed - 1);

  await page.goto(`${origin}/occasions`);
  await page.getByRole('button', { name: /^The letter/ }).click();
  await expect(form.getByText('This time has passed.')).toBeVisible();
  await form.getByRole('button', { name: 'Again next week' }).click();
  await expect(form.getByText('Once, on Tuesday, 1 December 2026', { exact: false })).toBeVisible();
  await expect(form.getByText('The draft is not switched on yet')).toBeVisible();
  await form.getByRole('button', { name: 'Publish the draft' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(form.getByText('On, same as this draft')).toBeVisible();
  await moveClock(page, 7, 'days');
  await form.getByRole('link', { name: `${agreed} held` }).click();
  await expect(
    page
      .getByText(`${2 * agreed} emails`)
      .or(page.getByText(`${agreed} emails`))
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: `Stop all ${agreed}` }).click();
  await page.getByRole('button', { name: /^Stop: .* emails$/ }).click();
  await expect(page.getByText('Held 0')).toBeVisible();
});

test('carts left now are written to by hand, with consent alone; a reader says in the house style what may come', async ({
  page,
  request,
}) => {
  const form = await begun(page, 'By hand');
  await named(form, 'A word about the cart');
  await sends(page, form, 'You left these on the potting bench', 'On');
  await form.getByRole('button', { name: 'Switch on' }).click();
  const ask = page.getByRole('dialog', { name: 'Switch on' });
  await expect(ask.getByText('Choose people under “Send by hand”', { exact: false })).toBeVisible();
  await ask.getByRole('button', { name: 'Switch on' }).click();
  await expect(form.getByText('On, same as this draft')).toBeVisible();

  const before = (await received(request)).length;
  await page.getByRole('button', { name: 'Send by hand' }).click();
  const sheet = page.getByRole('dialog', { name: 'Send by hand' });
  const rows = sheet.getByRole('row');
  await rows.filter({ hasText: '(no consent)' }).first().getByRole('checkbox').click();
  const chosen = rows.filter({ hasNotText: '(no consent)', has: page.getByRole('rowheader') });
  await chosen.first().getByRole('checkbox').click();
  await sheet.getByRole('button', { name: 'Send to 2 people' }).click();
  await expect(sheet.getByRole('status')).toContainText('2 people entered, 1 email created.');
  await expect(chosen.first()).toContainText('mail just now');
  expect(await axeFinds(page)).toEqual([]);
  await expect.poll(async () => (await received(request)).length).toBe(before + 1);

  // Looked at in the outbox, a mail was not opened by its reader.
  await page.goto(`${origin}/outbox`);
  const story = page.getByRole('dialog').getByRole('list', { name: 'Story' });
  for (let look = 0; look < 2; look++) {
    await page
      .getByRole('row')
      .filter({ hasText: 'A word about the cart' })
      .getByRole('button')
      .first()
      .click();
    await expect(
      page.frameLocator('iframe[title="The email"]').locator('table').first(),
    ).toBeVisible();
    await expect(story).toContainText('Sent to the stand-in mailbox.');
    await expect(story).not.toContainText('Opened');
    await page.keyboard.press('Escape');
  }

  const [mail] = await received(request);
  const { html } = await json<{ html: string }>(request, `/mailbox/${mail?.id ?? ''}`);
  const preferences = /href="([^"]*\/mail\/preferences\/[^"]+)"/.exec(html)?.[1] ?? '';
  expect(preferences).not.toContain('@');
  await page.goto(preferences);
  await expect(page.getByRole('heading', { name: 'Which emails do you want from us?' })).toHaveCSS(
    'font-family',
    /Georgia/,
  );
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('radio', { name: 'Only emails about my orders' }).check();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('You will get no more newsletters from us.')).toBeVisible();
  await page.goto(preferences);
  await expect(page.getByRole('radio', { name: 'Only emails about my orders' })).toBeChecked();
  // One letter changed in a link, and it is nobody's.
  await page.goto(`${preferences.slice(0, -1)}${preferences.endsWith('A') ? 'B' : 'A'}`);
  await expect(page.getByRole('heading', { name: 'This link does not work' })).toBeVisible();
});
