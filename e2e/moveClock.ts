import { expect, type Page } from './carafe';

/** Moves the clock on, by Ctrl+K, and waits until all that lay between has happened. */
export async function moveClock(page: Page, n: number, unit: 'hours' | 'days'): Promise<void> {
  await page.getByRole('button', { name: 'Find anything' }).click();
  await page.getByRole('textbox', { name: 'Find anything' }).fill('Move the clock');
  await page.getByRole('button', { name: /Move the clock/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Move the clock' });
  await dialog.getByLabel('How far').fill(String(n));
  await dialog.getByRole('combobox', { name: 'In', exact: true }).click();
  await page.getByRole('option', { name: unit }).click();
  await expect(dialog.getByRole('status')).toContainText('Here it is');
  const before = await dialog.getByRole('status').innerText();
  await dialog.getByRole('button', { name: 'Move the clock' }).click();
  // Whatever is due until then happens, one thing after the other.
  await expect(dialog.getByRole('status')).not.toHaveText(before, { timeout: 60_000 });
  await expect(dialog.getByRole('button', { name: 'Move the clock' })).toBeEnabled();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
}
