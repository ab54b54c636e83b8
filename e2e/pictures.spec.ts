import { expect, test } from './carafe';
import sharp from 'sharp';
import { add, copyOf, inspector, line, openDesk, saved } from './desk';

const CART = 'You left these on the potting bench';

test('a picture is added to the library, chosen in a mail, and told where it shows', async ({
  page,
  request,
}) => {
  const buffer = await sharp({
    create: { width: 1200, height: 800, channels: 3, background: '#7a9a5b' },
  })
    .png()
    .toBuffer();
  await page.goto('/library');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add pictures' }).click();
  await (
    await chooser
  ).setFiles([
    { name: 'long-bed.png', mimeType: 'image/png', buffer },
    { name: 'prices.png', mimeType: 'image/png', buffer: Buffer.from('sku,price\n1,2') },
    { name: 'wall.png', mimeType: 'image/png', buffer: Buffer.alloc(40_000_000) },
  ]);
  // Each that is refused is told by its name; the other is there.
  await expect(page.getByText('“prices.png” was not kept')).toBeVisible();
  await expect(page.getByText('“wall.png” was not kept')).toBeVisible();
  await expect(page.getByText(/^A picture can have at most 20 MB\./)).toBeVisible();
  const sheet = page.getByRole('dialog', { name: 'long-bed.png' });
  await sheet.getByRole('textbox', { name: 'Alt text' }).fill('The long bed in June');
  await sheet.getByRole('textbox', { name: 'Name' }).focus();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /long-bed\.png/ })).toBeVisible();

  const copy = await copyOf(request, CART, 'An email with a picture');
  const mail = await openDesk(page, copy.id);
  await line(page, 'You left these').click();
  await add(page, 'Picture');
  await inspector(page).getByRole('button', { name: 'Choose from the library' }).click();
  const library = page.getByRole('dialog', { name: 'Choose a picture' });
  await library.getByRole('textbox', { name: 'Search pictures' }).fill('june');
  await library.getByRole('button', { name: /long-bed\.png/ }).click();
  const shown = mail.getByRole('img', { name: 'The long bed in June' });
  await expect(shown).toHaveAttribute('src', /\/library\/[\w-]+\/552x368$/);
  await expect(shown).toHaveAttribute('srcset', /552x368 1x, .*1104x736 2x$/);
  await expect(shown).toHaveAttribute('height', '368');
  await expect(shown).toHaveJSProperty('complete', true);
  expect(await shown.evaluate((img) => (img as HTMLImageElement).naturalWidth)).toBeGreaterThan(0);
  await inspector(page).getByRole('combobox', { name: 'Shape' }).click();
  await page.getByRole('option', { name: 'Square' }).click();
  await expect(shown).toHaveAttribute('src', /552x552$/);
  await saved(page);

  await page.goto('/library');
  await page.getByRole('button', { name: /long-bed\.png/ }).click();
  await expect(page.getByRole('link', { name: 'An email with a picture' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Delete' })).toBeDisabled();
});
