import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';

/** A German catalog as a shop's system writes it: semicolons, comma decimals, a key that nobody would guess. */
export const SPRING = [
  'Kürzel;Bezeichnung;VK-Preis;Lager;Warengruppe;Aussaat ab;Bienenfreundlich;Kommentar',
  'rot;Roter Fingerhut;2,95;120;Samen;1.3.2026;ja;"Sät sich aus; Vorsicht"',
  'mohn;Klatschmohn;1,95;0;Samen;15.4.2026;ja;',
  'kerbel;Kerbel;teuer;14;Kräuter;1.5.2026;nein;',
  'kelle;Pflanzkelle;1.024,00;3;Werkzeug;;nein;Esche',
].join('\r\n');

export const asFile = (name: string, text: string | Buffer, mimeType = 'text/csv') => ({
  name,
  mimeType,
  buffer: Buffer.from(text),
});

/** Adds a source of a kind with a file, up to where the file is looked at. */
export async function addFile(
  page: Page,
  name: string,
  feeds: string,
  file: ReturnType<typeof asFile>,
): Promise<void> {
  await page.goto('/sources');
  await page.getByRole('button', { name: 'Add a source' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Contains' }).click();
  await page.getByRole('option', { name: feeds }).click();
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill(name);
  await dialog.locator('input[type=file]').setInputFiles(file);
  await dialog.getByRole('button', { name: 'Continue' }).click();
  await expect(page.getByRole('heading', { name: file.name })).toBeVisible();
}

/** Chooses an option of one of the lists of a mapping. */
export async function choose(page: Page, list: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: list, exact: true }).click();
  await page.getByRole('option', { name: option }).click();
}

export const fate = (page: Page, name: string) =>
  page.getByRole('tab', { name: new RegExp(`^[\\d,]+ ?${name}`) });

export const textOf = (path: string): string => readFileSync(path, 'utf8');
