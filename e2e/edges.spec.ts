import { expect, test, type APIRequestContext, type Page } from './carafe';
import { copyOf, inspector, line, openDesk, outline, saved, writeAnew, type Stored } from './desk';

// What nobody means to do, and somebody does: each is told with its place, and nothing is lost.

const CART = 'You left these on the potting bench';
const HEADING = 'You left these on the potting bench';

/** Selects the heading of a cart mail, and begins to write its condition as a formula. */
async function writeCondition(page: Page) {
  await line(page, HEADING).click();
  await inspector(page).getByRole('button', { name: 'As a formula' }).click();
  const field = inspector(page).getByRole('textbox', { name: 'Show only if' });
  await expect(field).toBeFocused();
  return field;
}

/** Stores a template in which the first node of a kind has something else. */
async function change(request: APIRequestContext, stored: Stored, kind: string, given: object) {
  let done = false;
  const template = JSON.parse(JSON.stringify(stored.template), (_, value: unknown) => {
    const isIt = (value as { kind?: unknown } | null)?.kind === kind && !done;
    if (isIt) done = true;
    return isIt ? { ...(value as object), ...given } : value;
  }) as object;
  const answer = await request.put(`/api/templates/${stored.id}`, {
    data: { version: stored.version, template },
  });
  expect(answer.status()).toBe(200);
}

test('a formula that is too long is told in its field; the mail stays as it was, and all is kept', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Too long');
  const mail = await openDesk(page, id);
  const field = await writeCondition(page);
  await page.keyboard.insertText(`${'cart.total >= 10 and '.repeat(190)}cart.count > 99`);
  await expect(
    inspector(page)
      .getByText(/at most 4,000 characters. Split it/)
      .first(),
  ).toBeVisible();
  await expect(inspector(page).getByText(/the last version that could be read/)).toBeVisible();
  await expect(mail.getByRole('heading', { name: HEADING })).toBeVisible();
  await saved(page);
  // Longer than a document has room for: not saved, with the place, until it is shorter.
  await writeAnew(field, 'cart.total >= 10 and '.repeat(1000));
  const state = page.getByTestId('save-state');
  await expect(state).toHaveAttribute('data-state', 'failed');
  await expect(state).toContainText(`“${HEADING}”, condition: This has at most 20,000 characters`);
  await writeAnew(field, 'cart.count > 99');
  await saved(page);
  await expect(mail.getByRole('heading', { name: HEADING })).toHaveCount(0);
});

test('a condition on a field that is gone, and a loop over a list that nobody has, say so', async ({
  page,
  request,
}) => {
  const stored = await copyOf(request, CART, 'Gone fields');
  await change(request, stored, 'heading', { when: 'person.loyalty_tier is "Gold"' });
  await openDesk(page, stored.id);
  await expect(outline(page).getByText(/hidden: loyalty tier missing/)).toBeVisible();
  await line(page, HEADING).click();
  const told = inspector(page).getByText(/Nothing is named “loyalty_tier” here/);
  await expect(told.first()).toBeVisible();
  const again = await copyOf(request, CART, 'Gone lists');
  await change(request, again, 'heading', { loop: { list: 'cart.wishes', as: 'wish' } });
  await openDesk(page, again.id);
  await line(page, HEADING).click();
  await expect(
    inspector(page)
      .getByText(/Nothing is named “wishes” here/)
      .first(),
  ).toBeVisible();
});

test('a cart of 10,000 lines is shown as far as a mail goes, and says where it is cut off', async ({
  page,
  request,
}) => {
  // A shop of its own: what others count stays as it is.
  const shop = {
    ...{ id: 'hoard', name: 'Hoard', url: 'https://hoard.example', address: 'Here' },
    ...{ currency: 'GBP', timezone: 'Europe/London', locale: 'en-GB' },
    logo: 'https://hoard.example/logo.png',
  };
  expect((await request.post('/api/shops', { data: shop })).ok()).toBe(true);
  const begin = Date.UTC(2026, 10, 24, 8);
  const events = Array.from({ length: 10_000 }, (_, i) => ({
    ...{ id: `hoard-${i}`, at: new Date(begin + i).toISOString(), shop: 'hoard' },
    ...{ email: 'hoarder@post.example', kind: 'cart_added', currency: 'GBP', sku: `H-${i}` },
    ...{ name: `Thing number ${i}`, price: 1.25, quantity: 1 },
    properties: [{ name: 'Engraved label', value: `Row ${i}` }],
  }));
  expect((await request.post('/api/events', { data: events })).status()).toBe(200);
  const stored = await copyOf(request, CART, 'Hoarder');
  const template = { ...stored.template, shop: 'hoard' };
  const answer = await request.put(`/api/templates/${stored.id}`, {
    data: { version: stored.version, template },
  });
  expect(answer.status()).toBe(200);
  const mail = await openDesk(page, stored.id);
  await expect(mail.getByText('Thing number 0', { exact: true })).toBeVisible();
  await expect(outline(page).getByText('10,000 lines')).toBeVisible();
  await expect(
    inspector(page).getByText(/This email is cut off at “Table of cart lines”/),
  ).toBeVisible();
});

test('a product that was picked and left the catalog is told, and taken out in one click', async ({
  page,
  request,
}) => {
  const stored = await copyOf(request, 'The November letter', 'Left the catalog');
  const where = 'product.sku in ["S-103", "GONE-1"]';
  await change(request, stored, 'cards', {
    items: { list: 'catalog.garden', as: 'product', where },
  });
  const mail = await openDesk(page, stored.id);
  await page.keyboard.press('v');
  await page.getByRole('tab', { name: /Checks/ }).click();
  await expect(
    page.getByText(/names 1 product that is in no catalog any more: “GONE-1”/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Keep the others' }).click();
  await expect(page.getByText(/in no catalog any more/)).toHaveCount(0);
  await expect(mail.getByText('Lanternwick poppy')).toBeVisible();
  await saved(page);
});

test('what another program left on the clipboard becomes words; what is dropped is told', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Clipboard');
  const mail = await openDesk(page, id);
  await line(page, HEADING).click();
  const html = `<svg onload="document.title='ran'"></svg><script>document.title='ran'</script>
    <form><input value="Name"></form><p>From <b>elsewhere</b><img src="x" onerror="document.title='ran'"></p>
    <table><tr><td>Left<td>Right</table>`;
  await page.evaluate((given) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/html', given);
    const at = document.activeElement ?? document.body;
    at.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  }, html);
  await expect(mail.getByText('From elsewhere')).toBeVisible();
  await expect(page.getByText(/Tables became lines\. Pictures were left out/)).toBeVisible();
  await expect(page).not.toHaveTitle(/ran/);
  await saved(page);
});
