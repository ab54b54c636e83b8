import { chromium, type Page } from '@playwright/test';
import { LAUNCH, startServer } from '@carafe/e2e/server';
import { percentiles } from './measure';

const PORT = 4630;

/**
 * From a key's press to the frame after the canvas was painted anew, in milliseconds. It is pressed when the
 * page has done what follows a paint, as a hand would: not in the very frame of the one before.
 */
async function keyToPaint(page: Page, key: string): Promise<number> {
  await page.evaluate(() => new Promise((done) => requestIdleCallback(done)));
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

type Times = { median: number; p95: number };
export interface BrowserResult {
  /** The demo's cart mail, and templates of 60 and of 200 blocks. */
  desks: { blocks: number; next: Times; edit: Times }[];
  /** From the click to the painted mail of a template of 1,000 nodes: when it is new, and then again and again. */
  openLarge: { first: number; again: number[] };
  recipients: number;
}

interface Stored {
  id: string;
  template: { name: string; sections: object[] };
}
const CART = 'You left these on the potting bench';

/** The blocks of a template, elses among them. */
function blocksIn(sections: readonly object[]): number {
  return JSON.stringify(sections).match(/"kind":"(?!section|column)/g)?.length ?? 0;
}

/** A template of about so many blocks: the sections of the cart mail again and again. */
async function large(page: Page, origin: string, blocks: number): Promise<Stored> {
  const { templates } = (await (await page.request.get(`${origin}/api/templates`)).json()) as {
    templates: { id: string; name: string }[];
  };
  const id = templates.find(({ name }) => name === CART)?.id ?? '';
  const { template } = (await (
    await page.request.get(`${origin}/api/templates/${id}`)
  ).json()) as Stored;
  const sections: object[] = [];
  for (let n = 0; blocksIn(sections) < blocks; n++)
    sections.push(
      ...(JSON.parse(
        JSON.stringify(template.sections).replace(/"id":"([^"]+)"/g, `"id":"$1-${n}"`),
      ) as object[]),
    );
  const data = { template: { ...template, name: `${blocks} blocks`, sections } };
  const made = await page.request.post(`${origin}/api/templates`, { data });
  if (!made.ok()) throw new Error(await made.text());
  return (await made.json()) as Stored;
}

/** Opens a template from the list, when that has been seen, and gives the time until its mail is painted. */
async function opened(page: Page, origin: string, id: string): Promise<number> {
  await page.goto(origin);
  await page.locator(`a[href="/templates/${id}"]`).first().waitFor();
  await page.waitForLoadState('networkidle');
  const start = performance.now();
  await page.locator(`a[href="/templates/${id}"]`).first().click();
  await page.waitForFunction(() => document.documentElement.dataset['painted'] !== undefined);
  return performance.now() - start;
}

/** The next recipient, and a letter typed, on the desk of a template. */
async function measured(page: Page): Promise<{ next: Times; edit: Times }> {
  const next: number[] = [];
  for (let i = 0; i < 120; i++) next.push(await keyToPaint(page, 'j'));
  await page.locator('button[aria-current]').filter({ hasText: 'You left these' }).first().click();
  await page
    .getByRole('complementary')
    .getByRole('textbox', { name: 'Heading', exact: true })
    .click();
  const edit: number[] = [];
  for (let i = 0; i < 60; i++) edit.push(await keyToPaint(page, 'abcdefghij'[i % 10] ?? 'a'));
  // The first few warm up what every later one uses.
  return { next: percentiles(next.slice(10)), edit: percentiles(edit.slice(5)) };
}

/** Measures the desk as a designer feels it: the next recipient, a letter typed, a template opened. */
export async function benchBrowser(): Promise<BrowserResult> {
  const { origin, stop } = await startServer(PORT);
  const browser = await chromium.launch(LAUNCH);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const desks: BrowserResult['desks'] = [];
    for (const blocks of [1, 60, 200]) {
      const { id, template } = await large(page, origin, blocks);
      await opened(page, origin, id);
      desks.push({ blocks: blocksIn(template.sections), ...(await measured(page)) });
    }
    // About seven nodes of ten are blocks.
    const { id } = await large(page, origin, 530);
    const first = await opened(page, origin, id);
    const again: number[] = [];
    for (let i = 0; i < 7; i++) again.push(await opened(page, origin, id));
    const { total } = (await (
      await page.request.get(`${origin}/api/shops/quillmoss-gb/recipients`)
    ).json()) as { total: number };
    return { desks, openLarge: { first, again }, recipients: total };
  } finally {
    await browser.close();
    await stop();
  }
}
