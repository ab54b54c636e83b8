import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from './carafe';

/** Waits until nothing is on its way from one look to another: colours half way would be judged. */
export async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    // What was just asked for begins with the next picture.
    for (let i = 0; i < 2; i++) await new Promise((done) => requestAnimationFrame(done));
    const ends = (one: Animation) => one.effect?.getComputedTiming().endTime !== Infinity;
    const running = document.getAnimations().filter((one) => one.playState === 'running');
    // One that is taken back is over, too.
    await Promise.all(running.filter(ends).map((one) => one.finished.catch(() => null)));
  });
}

/** The rules that other colours can break: in dark, all others find what they found in light. */
const OF_COLOURS = ['color-contrast', 'link-in-text-block'];

/** What axe finds in a page, or in a part of it, as it stays: each rule with what it is about. */
export async function axeFinds(page: Page, of?: string): Promise<string[]> {
  await settled(page);
  const isDark = (await page.locator('html[data-mantine-color-scheme=dark]').count()) > 0;
  // Mails stand in frames that run no scripts, axe's among them: it looks at the interface, and waits for no frame.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ iframes: false });
  if (isDark) axe.withRules(OF_COLOURS);
  const { violations } = await (of === undefined ? axe : axe.include(of)).analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(', ')}`);
}

/** The same in light and in dark. */
export async function axeFindsInBoth(page: Page, of?: string): Promise<string[]> {
  const found: string[] = [];
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    // The page follows what is asked of it: only then do colours begin to change.
    await expect(page.locator('html')).toHaveAttribute('data-mantine-color-scheme', colorScheme);
    found.push(...(await axeFinds(page, of)));
  }
  return found;
}
