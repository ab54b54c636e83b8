import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { line } from './desk';
import { addFile, asFile, choose, SPRING } from './files';
import { LAUNCH, startServer } from './server';

const folder = join(import.meta.dirname, '..', 'docs', 'screenshots');
mkdirSync(folder, { recursive: true });

const { origin, stop } = await startServer(4640, '2026-11-24T09:00:00Z');
const browser = await chromium.launch(LAUNCH);
const page = await browser.newPage({
  baseURL: origin,
  viewport: { width: 1280, height: 800 },
  locale: 'en-GB',
  colorScheme: 'light',
});
// The page's clock stands a little after the server's, so that the pictures do not change by the day.
await page.clock.setFixedTime('2026-11-24T09:20:00Z');
const mail = page.frameLocator('iframe[title^="The email"]');

async function take(name: string, on: Page = page): Promise<void> {
  await on.evaluate(() => document.fonts.ready);
  // The pictures of a mail are loaded when all of them have a size.
  await on.waitForFunction(() =>
    [document, ...[...document.querySelectorAll('iframe')].map((f) => f.contentDocument)].every(
      (d) => [...(d?.images ?? [])].every((i) => i.complete || i.loading === 'lazy'),
    ),
  );
  await on.screenshot({ path: join(folder, `${name}.png`), animations: 'disabled' });
}
async function open(name: string): Promise<void> {
  await page.goto(origin);
  await page.getByRole('link', { name, exact: true }).click();
  await mail.locator('table').first().waitFor();
}

await page.goto(origin);
await page.locator('iframe').nth(5).waitFor();
await take('templates');

await page.goto(`${origin}/library`);
await page.getByRole('button', { name: /The long bed/ }).click();
await page.getByRole('dialog').locator('img').first().waitFor();
await take('library');
await page.goto(`${origin}/library/notes`);
await page.getByRole('button', { name: 'Before you sow', exact: true }).click();
await page.getByRole('textbox', { name: 'Words' }).waitFor();
await take('notes');

await page.goto(`${origin}/recommendations`);
await page.getByRole('button', { name: /^Beside the cart/ }).click();
await page.locator('input[value="beside_cart"]').waitFor();
await page.getByText(/^Maud Fennimore/).waitFor();
await page
  .getByText(/^Goes with your/)
  .first()
  .waitFor();
await take('recommendations');
const past = page.getByRole('region', { name: 'Test on past orders' });
await past.getByRole('button', { name: 'Try', exact: true }).click();
await past.getByRole('columnheader', { name: /^Hits/ }).waitFor({ timeout: 60_000 });
await page.getByRole('region', { name: 'Everybody' }).getByRole('button').click();
await page.getByRole('img', { name: /^How unevenly/ }).waitFor();
await page.getByText('1,250 of 1,250 people').waitFor();
await past.scrollIntoViewIfNeeded();
await take('trial');

await open('Chosen for you');
await page.getByRole('button', { name: 'Send a test' }).click();
await page.getByRole('dialog').getByRole('button', { name: 'Send' }).click();
await page.getByRole('link', { name: 'Open the mailbox' }).click();
await page.frameLocator('iframe').getByText('A few things').first().waitFor();
await page
  .getByRole('button', { name: /close/i })
  .or(page.locator('.mantine-Notification-closeButton'))
  .first()
  .click();
await take('mailbox');

await open('You left these on the potting bench');
await line(page, /Table of cart.lines/).click();
await take('desk');

await page.keyboard.press('j');
await mail.getByText('Old Orchard poppy').waitFor();
await page.getByLabel('Phone width').click();
await line(page, /Hello ‹first_name›/).click();
await take('desk-phone');
await page.getByLabel('Desktop width').click();

await page.getByRole('button', { name: 'What everybody gets' }).click();
await page.locator('[data-testid="survey-state"][data-running="false"]').waitFor();
await page.getByRole('region', { name: 'Variants' }).locator('iframe').nth(3).waitFor();
await page.mouse.move(640, 780);
await page.getByRole('tooltip').waitFor({ state: 'detached' });
await take('everybody');
await page.getByRole('button', { name: 'Close what everybody gets' }).click();

await mail.getByText('You chose').dblclick();
await page.getByRole('button', { name: 'Insert a field in Text in place' }).click();
await page.getByLabel('Search fields').fill('person');
await take('fields');
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');

await open('Thank you for your order');
await line(page, /Table of order.lines/).click();
await take('order');
await open('The November letter');
await line(page, /Cards of/).click();
await page.emulateMedia({ colorScheme: 'dark' });
await take('newsletter-dark');

await page.emulateMedia({ colorScheme: 'light' });
await page.goto(`${origin}/sources`);
await page.getByRole('table').waitFor();
await take('sources');

await addFile(page, 'Spring', 'Product catalog', asFile('spring.csv', SPRING));
await choose(page, 'Key', 'Kürzel');
await page.getByText('No duplicates').waitFor();
await take('mapping');
await page.getByRole('button', { name: 'Check every row' }).click();
await page.getByText('4 rows were read.').waitFor();
await take('review');

await page.goto(`${origin}/people?shop=quillmoss-gb`);
await page.getByRole('button', { name: 'Maud Fennimore' }).first().click();
await page.getByRole('heading', { name: /^Rank \d of 5$/ }).waitFor();
await page.getByText('Long Tom pot × 2').first().waitFor({ state: 'attached' });
await take('person');

await page.goto(`${origin}/shop`);
await page.getByRole('button', { name: 'Pots', exact: true }).click();
await page.getByRole('button', { name: /Long Tom pot/ }).click();
await page.getByLabel('Engraved label').fill('Row 12');
await page.getByRole('button', { name: 'Put it in the basket' }).click();
await page.getByText('is in your basket').waitFor();
await take('shop');

await page.goto(`${origin}/occasions`);
await page.getByRole('region', { name: 'One person' }).getByText('Entered.').waitFor();
await page.getByRole('button', { name: 'Replay', exact: true }).click();
await page.getByText('1,250 of 1,250 people checked.').waitFor({ timeout: 60_000 });
// A replay scrolls to its figures; the time line stands above them.
await page.evaluate(() => window.scrollTo(0, 0));
await take('occasions');

await page.getByRole('button', { name: 'Switch on' }).click();
await page.getByRole('dialog').getByRole('button', { name: 'Switch on' }).click();
await page.getByText('On, same as this draft').waitFor();
const { now } = (await (await page.request.get(`${origin}/api/clock`)).json()) as { now: string };
const { recipients } = (await (
  await page.request.get(`${origin}/api/shops/quillmoss-gb/recipients?having=order&limit=40`)
).json()) as { recipients: { email: string }[] };
const thing = (sku: string, name: string, price: number) => ({
  ...{ kind: 'cart_added', sku, name, price, quantity: 1, currency: 'GBP' },
});
await page.request.post(`${origin}/api/events`, {
  data: recipients.flatMap(({ email }, i) =>
    [thing('P-101', 'Long Tom pot', 16.3), thing('S-101', 'Lanternwick foxglove', 2)].map(
      (event, n) => ({ ...event, id: `shot-${i}-${n}`, at: now, shop: 'quillmoss-gb', email }),
    ),
  ),
});
await page.request.post(`${origin}/api/clock`, { data: { minutes: 241 } });
await page.goto(`${origin}/outbox`);
await page.getByRole('button', { name: /@/ }).first().click();
await page.frameLocator('iframe[title="The email"]').getByText('Long Tom pot').first().waitFor();
await take('outbox');

await browser.close();
await stop();
