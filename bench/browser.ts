import { chromium, type Page } from '@playwright/test';
import { LAUNCH, startServer } from '@carafe/e2e/server';
import { percentiles } from './measure';

const PORT = 4630;

/** From a key's press to the frame after the canvas was painted anew, in milliseconds. */
async function keyToPaint(page: Page, key: string): Promise<number> {
  await page.evaluate(() => {
    const w = window as unknown as { measured: Promise<number> };
    w.measured = new Promise((done) => {
      let pressed = 0;
      window.addEventListener('keydown', () => (pressed = performance.now()), {
        capture: true,
        once: true,
      });
      const observer = new MutationObserver(() => {
        observer.disconnect();
        requestAnimationFrame(() => done(performance.now() - pressed));
      });
      observer.observe(document.documentElement, {
        attributes: true,
        attributeFilter: ['data-painted'],
      });
    });
  });
  await page.keyboard.press(key);
  return page.evaluate(() => (window as unknown as { measured: Promise<number> }).measured);
}

export interface BrowserResult {
  next: { median: number; p95: number };
  edit: { median: number; p95: number };
  recipients: number;
}

/** Measures the desk as a designer feels it: the next recipient, and a letter typed. */
export async function benchBrowser(): Promise<BrowserResult> {
  const { origin, stop } = await startServer(PORT);
  const browser = await chromium.launch(LAUNCH);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(origin);
    await page
      .getByRole('link', { name: 'You left these on the potting bench', exact: true })
      .click();
    await page.waitForFunction(() => document.documentElement.dataset['painted'] !== undefined);
    const next: number[] = [];
    for (let i = 0; i < 120; i++) next.push(await keyToPaint(page, 'j'));
    await page
      .locator('button[aria-current]')
      .filter({ hasText: 'You left these' })
      .first()
      .click();
    await page
      .getByRole('complementary')
      .getByRole('textbox', { name: 'Heading', exact: true })
      .click();
    const edit: number[] = [];
    for (let i = 0; i < 60; i++) edit.push(await keyToPaint(page, 'abcdefghij'[i % 10] ?? 'a'));
    const { total } = (await (
      await page.request.get(`${origin}/api/shops/quillmoss-gb/recipients`)
    ).json()) as { total: number };
    // The first few warm up what every later one uses.
    return {
      next: percentiles(next.slice(10)),
      edit: percentiles(edit.slice(5)),
      recipients: total,
    };
  } finally {
    await browser.close();
    stop();
  }
}
