import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { blur, line } from './desk';
import { LAUNCH, startServer } from './server';

const folder = join(import.meta.dirname, '..', 'docs', 'screenshots');
mkdirSync(folder, { recursive: true });

const { origin, stop } = await startServer(4640, '2026-11-24T09:00:00Z');
const browser = await chromium.launch(LAUNCH);
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  locale: 'en-GB',
  colorScheme: 'light',
});
const mail = page.frameLocator('iframe[title^="The mail"]');

async function take(name: string, on: Page = page): Promise<void> {
  await on.evaluate(() => document.fonts.ready);
  // The pictures of a mail are loaded when all of them have a size.
  await on.waitForFunction(() =>
    [...document.querySelectorAll('iframe')].every((f) =>
      [...(f.contentDocument?.images ?? [])].every((i) => i.complete),
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
await page.locator('iframe').nth(2).waitFor();
await take('templates');

await open('You left these on the potting bench');
await line(page, /Table of cart.lines/).click();
await take('desk');

await page.keyboard.press('j');
await mail.getByText('Old Orchard poppy').waitFor();
await page.getByLabel('Phone width').click();
await line(page, /Hello ‹first_name›/).click();
await take('desk-phone');
await page.getByLabel('Desktop width').click();

await page
  .getByRole('complementary')
  .getByRole('button', { name: /Merge tag title/ })
  .click();
await page.getByLabel('Fallback').fill('gardener');
await mail.getByText('Hello gardener').waitFor();
await take('tag');
await page.keyboard.press('Escape');
await blur(page);

await line(page, /Your parcel travels free/).click();
await page.getByRole('button', { name: 'Because (B)' }).click();
await take('because');
await page.getByRole('button', { name: 'Because (B)' }).click();

await mail.getByText('You chose').dblclick();
await page.getByRole('button', { name: 'Fill in a field in Text in place' }).click();
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

await browser.close();
stop();
