import {
  expect,
  type APIRequestContext,
  type FrameLocator,
  type Locator,
  type Page,
} from '@playwright/test';

export interface Stored {
  id: string;
  version: number;
  template: Record<string, unknown> & { name: string };
}

/** A copy of a demo template, so that each test has one of its own. */
export async function copyOf(
  request: APIRequestContext,
  name: string,
  as: string,
): Promise<Stored> {
  const { templates } = (await (await request.get('/api/templates')).json()) as {
    templates: { id: string; name: string }[];
  };
  const found = templates.find((t) => t.name === name);
  if (!found) throw new Error(`There is no template ${name}.`);
  const answer = await request.post('/api/templates', { data: { copy_of: found.id, name: as } });
  expect(answer.status()).toBe(201);
  return (await answer.json()) as Stored;
}

/** Opens a template and waits until its mail is painted. */
export async function openDesk(page: Page, id: string): Promise<FrameLocator> {
  await page.goto(`/templates/${id}`);
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.locator('table').first()).toBeVisible();
  return mail;
}

/** Waits until everything is stored. */
export async function saved(page: Page): Promise<void> {
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
}

export const outline = (page: Page) => page.getByRole('navigation', { name: 'Outline' });
/** The line of the outline that says this. */
export const line = (page: Page, says: string | RegExp) =>
  outline(page).locator('button[aria-current]').filter({ hasText: says }).first();
/**
 * Goes by arrows to the line of the outline that says just this, whichever way it is from what is selected: a key
 * that the desk took late has gone past it.
 */
export async function arrowsTo(
  page: Page,
  says: string,
  press: (key: string) => Promise<void> = (key) => page.keyboard.press(key),
): Promise<void> {
  const lines = outline(page).locator('button[aria-current]');
  const wanted = lines.filter({ hasText: says }).first();
  await expect(wanted).toBeVisible();
  await expect(async () => {
    const [now, there] = await lines.evaluateAll(
      (all, text) => [
        all.findIndex((one) => one.getAttribute('aria-current') === 'true'),
        all.findIndex((one) => one.textContent.includes(text)),
      ],
      says,
    );
    if (now !== there) await press((now ?? 0) > (there ?? 0) ? 'ArrowUp' : 'ArrowDown');
    await expect(wanted).toHaveAttribute('aria-current', 'true', { timeout: 500 });
  }).toPass({ intervals: [0] });
}
export const inspector = (page: Page) => page.getByRole('complementary', { name: 'Inspector' });
/** Writes a formula anew in the place of what stands in a field, as hands do: the editor sees what is selected. */
export async function writeAnew(field: Locator, source: string): Promise<void> {
  await field.click();
  await expect(field).toBeFocused();
  await field.press('ControlOrMeta+a');
  await field.page().keyboard.insertText(source);
}

/** Waits for the keys of the desk to go to the desk, not to a field. */
export const blur = (page: Page) =>
  page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());

/** Adds a block after the selection, found by its name. */
export async function add(page: Page, name: string): Promise<void> {
  await page.keyboard.press('/');
  await expect(page.getByRole('textbox', { name: 'Search blocks' })).toBeFocused();
  await page.keyboard.type(name);
  await expect(page.getByRole('option').first()).toContainText(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Search blocks' })).toHaveCount(0);
}

/** What the server fills of the template on the desk for a recipient, as of now. */
export async function htmlFor(page: Page, email: string): Promise<string> {
  await saved(page);
  const id = page.url().split('/').at(-1) ?? '';
  const person = await page.request.get('/api/shops/quillmoss-gb/person', { params: { email } });
  const { record } = (await person.json()) as { record: unknown };
  const common = await page.request.post('/api/shops/quillmoss-gb/shared', {
    data: { catalogs: null },
  });
  const { shared } = (await common.json()) as { shared: object };
  const answer = await page.request.post('/api/render', {
    data: {
      ...{ template_id: id, version: 'draft' },
      records: [{ ...(record as object), ...shared }],
      as_of: new Date().toISOString(),
    },
  });
  const { mails } = (await answer.json()) as { mails: { html: string }[] };
  return mails[0]?.html ?? '';
}

/** From the desk to another place, by its menu. */
export async function leaveFor(page: Page, place: string): Promise<void> {
  await page.getByRole('button', { name: 'Menu', exact: true }).click();
  await page.getByRole('menuitem', { name: place, exact: true }).click();
}
