import { expect, test } from './carafe';
import { blur, inspector, openDesk, line, outline, saved } from './desk';

test('a cart mail that fills itself: open, flip, edit the greeting, add a fallback, reload', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Templates' })).toBeVisible();
  const card = page.getByRole('listitem').filter({
    has: page.getByRole('link', { name: 'You left these on the potting bench', exact: true }),
  });
  // What is out of sight is not asked for.
  await card.scrollIntoViewIfNeeded();
  const thumbnail = card.locator('iframe').contentFrame();
  await expect(thumbnail.getByText('Hello Maud,')).toBeVisible();
  await page
    .getByRole('link', { name: 'You left these on the potting bench', exact: true })
    .click();

  // Filled for a real recipient: name, three lines with picture, variant, quantity and price, a total.
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(page.getByTestId('who')).toContainText('Maud Fennimore');
  await expect(mail.getByText('Hello Maud,')).toBeVisible();
  const rows = mail.locator('tbody tr').filter({ has: mail.locator('img[width="56"]') });
  await expect(mail.locator('img[width="56"]')).toHaveCount(3);
  await expect(rows.filter({ hasText: 'Long Tom pot' }).last()).toContainText('26 cm');
  await expect(mail.getByText('£32.60')).toBeVisible();
  await expect(mail.getByText('£71.45')).toBeVisible();
  const loaded = await mail
    .locator('img[width="56"]')
    .first()
    .evaluate((img: HTMLImageElement) => img.complete && img.naturalWidth > 0);
  expect(loaded).toBe(true);
  await expect(mail.getByText('we carry the postage')).toBeVisible();
  await expect(outline(page).getByText('3 lines')).toBeVisible();

  // The next recipient has no name and one line; the mail changes.
  await page.keyboard.press('j');
  await expect(page.getByTestId('who')).toContainText('No name');
  await expect(mail.locator('img[width="56"]')).toHaveCount(1);
  await expect(mail.getByText('we carry the postage')).toHaveCount(0);
  await expect(mail.getByText('Another £46.60 and your parcel travels free.')).toBeVisible();
  await expect(
    outline(page).getByText(/hidden: cart total £[\d.]+ is under £50\.00/),
  ).toBeVisible();

  // The finding stands where it arises; the greeting is edited and given a fallback.
  await line(page, /Hello ‹first_name›/).click();
  await expect(inspector(page).getByText(/is blank for \d+ of 1,25\d people/)).toBeVisible();
  const text = inspector(page).getByRole('textbox', { name: 'Text', exact: true });
  await text.click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.type('Well, ');
  await expect(mail.getByText('Well, Hello')).toBeVisible();
  await inspector(page).getByRole('button', { name: 'Merge tag title(person.first_name)' }).click();
  await page.getByLabel('Fallback').fill('gardener');
  await expect(page.getByTestId('tag-value')).toHaveText('Here: gardener');
  await expect(mail.getByText('Well, Hello gardener,')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(inspector(page).getByText(/is blank for/)).toHaveCount(0);
  await blur(page);
  await page.keyboard.press('k');
  await expect(mail.getByText('Well, Hello Maud,')).toBeVisible();

  // Reloaded, it is all still there.
  await saved(page);
  await page.reload();
  await expect(mail.getByText('Well, Hello Maud,')).toBeVisible();
  await page.keyboard.press('j');
  await expect(mail.getByText('Well, Hello gardener,')).toBeVisible();
});

test('the order confirmation shows properties, discount and totals; blank notes are left out', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Thank you for your order', exact: true }).click();
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Engraved label: M. F., 1987–')).toBeVisible();
  await expect(mail.getByText('Delivery week: Week 41')).toBeVisible();
  await expect(mail.getByText('Gift note: Sow these by the gate')).toBeVisible();
  await expect(mail.getByText(/^Gift note:/)).toHaveCount(1);
  await expect(mail.getByText('-£5.00')).toBeVisible();
  await expect(mail.getByText('“Please leave it in the greenhouse.”')).toBeVisible();
});

test('the newsletter shows its hand-picked products three by three, and two posts', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'The November letter', exact: true }).click();
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.locator('.carafe-card-3')).not.toHaveCount(0);
  const [a, b, c] = await mail
    .locator('.carafe-card-3')
    .evaluateAll((cards) => cards.map((card) => card.getBoundingClientRect().top));
  expect(a).toBe(b);
  expect(b).toBe(c);
  await expect(mail.getByText('The bench in November')).toBeVisible();
  await expect(mail.getByRole('link', { name: 'Read on' })).toHaveCount(2);
  // On a phone the cards stand below each other.
  await page
    .getByRole('radiogroup', { name: 'Width' })
    .getByText('', { exact: true })
    .last()
    .click({ force: true });
  await expect
    .poll(() =>
      mail
        .locator('.carafe-card-3')
        .evaluateAll(
          (cards) => new Set(cards.map((card) => card.getBoundingClientRect().top)).size,
        ),
    )
    .toBeGreaterThan(2);
});

test('opening from an address that leads nowhere says so', async ({ page }) => {
  await page.goto('/templates/nothing-here');
  await expect(page.getByRole('alert')).toContainText('There is no such template');
  await page.getByRole('link', { name: 'Back to the templates' }).click();
  await expect(page.getByRole('heading', { name: 'Templates' })).toBeVisible();
});

test('a recipient is found by name, and lists can be narrowed', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Thank you for your order', exact: true }).click();
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Thank you, Maud')).toBeVisible();
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  await page.getByLabel('Search recipients').fill('wainfleet');
  await expect(page.getByRole('button', { name: 'Find a recipient' })).not.toContainText('of 6');
  await page.getByLabel('Search recipients').press('Enter');
  await expect(page.getByTestId('who')).toContainText('Wainfleet');
  await openDesk(page, (await page.evaluate(() => location.pathname)).split('/').at(-1) ?? '');
});
