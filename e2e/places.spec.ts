import type { Request } from '@playwright/test';
import { axeFinds } from './axe';
import { expect, test } from './carafe';
import { leaveFor, copyOf, openDesk, line, saved, writeAnew } from './desk';

const CART = 'You left these on the potting bench';

test('axe finds nothing: templates place and desk, light and dark', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Axe');
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await page.goto('/');
    await expect(page.locator('iframe').first()).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await openDesk(page, id);
    expect(await axeFinds(page)).toEqual([]);
    await line(page, /Table of cart.lines/).click();
    await page.getByRole('button', { name: 'Why', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Why' })).toContainText('3 in the list, 3 shown');
    // A tooltip under the pointer is no part of the page.
    await page.mouse.move(600, 400);
    await expect(page.getByRole('tooltip')).toHaveCount(0);
    expect(await axeFinds(page)).toEqual([]);
    await page.getByRole('button', { name: 'Why', exact: true }).click();
  }
});

test('axe finds nothing in the library, light and dark', async ({ page }) => {
  const sheets = [
    ['/library', /Pots on the shelf/],
    ['/library/notes', /^Before you sow$/],
    ['/library/notes', 'All products and their notes'],
    ['/library/formulas', 'Regular customer'],
  ] as const;
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    for (const [path, opens] of sheets) {
      await page.goto(path);
      await expect(page.getByRole('button', { name: opens })).toBeVisible();
      expect(await axeFinds(page)).toEqual([]);
      await page.getByRole('button', { name: opens }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      expect(await axeFinds(page)).toEqual([]);
    }
  }
});

test('a formula with a name is written, used on the desk, and changed once for all', async ({
  page,
  request,
}) => {
  await page.goto('/library/formulas');
  await page.getByRole('button', { name: 'Add a formula' }).click();
  const sheet = page.getByRole('dialog', { name: 'A new formula' });
  await sheet.getByRole('textbox', { name: 'Name' }).fill('Closing words');
  await expect(sheet.getByRole('textbox', { name: 'Used in formulas as' })).toHaveValue(
    'closing_words',
  );
  const formula = sheet.getByRole('textbox', { name: 'Formula', exact: true });
  await writeAnew(formula, '"Yours, " & shop.name');
  await expect(sheet.getByTestId('samples')).toContainText('None of 1,250 sees a blank.');
  await sheet.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('own.closing_words')).toBeVisible();

  const { id } = await copyOf(request, CART, 'Named');
  const mail = await openDesk(page, id);
  await line(page, 'You left these').click();
  const heading = page
    .getByRole('complementary', { name: 'Inspector' })
    .getByRole('textbox', { name: 'Heading' });
  await heading.fill('{{ own.closing_words }}!');
  await expect(mail.getByText('Yours, Quillmoss Seed House!')).toBeVisible();
  await saved(page);

  await page.goto('/library/formulas');
  await expect(page.getByRole('link', { name: 'Named', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Closing words' }).click();
  await writeAnew(
    page.getByRole('dialog').getByRole('textbox', { name: 'Formula', exact: true }),
    '"From all of " & shop.name',
  );
  await expect(page.getByRole('dialog').getByTestId('samples')).toContainText('From all of');
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // What is used cannot be taken away unseen.
  await page.getByRole('button', { name: 'Closing words' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('alert')).toContainText('is used in “Named”');
  const again = await openDesk(page, id);
  await expect(again.getByText('From all of Quillmoss Seed House!')).toBeVisible();
});

test('axe finds nothing in what opens on the desk: blocks, recipients, sentences, products', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, 'The November letter', 'Axe opened');
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await openDesk(page, id);
    await page.getByRole('button', { name: 'Find a recipient' }).click();
    await expect(page.getByRole('option').first()).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await line(page, /Cards of/).click();
    const form = page.getByRole('complementary', { name: 'Inspector' });
    await form.getByRole('button', { name: 'Add a condition' }).first().click();
    // A new condition asks for its field at once.
    await expect(form.getByRole('button', { name: 'Choose a field', exact: true })).toBeVisible();
    await expect(page.getByRole('textbox', { name: 'Search fields' })).toBeFocused();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await form.getByRole('button', { name: /picked by hand|Pick products by hand/ }).click();
    await expect(page.getByRole('dialog', { name: 'Pick products' })).toBeVisible();
    await expect(page.getByText('S-101', { exact: false }).first()).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await page.getByRole('group', { name: /^The email\./ }).focus();
    await page.keyboard.press('/');
    await expect(page.getByRole('textbox', { name: 'Search blocks' })).toBeFocused();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.type('columns');
    const blocks = page.getByRole('listbox', { name: 'Blocks' });
    await expect(blocks.getByRole('option').first()).toContainText('Two columns');
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');
  }
});

test('axe finds nothing where several parts are selected, a list is asked, somebody is made up', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, 'You left these on the potting bench', 'Axe of several');
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await openDesk(page, id);
    const form = page.getByRole('complementary', { name: 'Inspector' });
    await line(page, 'Table of cart lines').click();
    await line(page, 'Back to the bench').click({ modifiers: ['Control'] });
    await expect(form.getByRole('heading', { name: '2 parts selected' })).toBeVisible();
    await form.getByRole('button', { name: 'Copy, paste, group' }).click();
    await expect(page.getByRole('menuitem', { name: /its own section/ })).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');

    await line(page, 'Sowing hint').click();
    await expect(form.getByRole('group', { name: 'Of cart lines' })).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await form.getByRole('button', { name: 'Save as a named formula' }).click();
    await expect(page.getByRole('dialog', { name: 'Save as a named formula' })).toBeVisible();
    await expect(page.getByTestId('audience').last()).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);

    await page.getByRole('button', { name: 'Find a recipient' }).click();
    await page.getByRole('button', { name: 'Test recipients …' }).click();
    const sheet = page.getByRole('dialog', { name: 'Test recipients' });
    await sheet.getByRole('button', { name: /^Copy/ }).click();
    await expect(sheet.getByText('In the cart')).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    await sheet.getByRole('button', { name: 'Delete this test recipient' }).click();
    await expect(sheet.getByLabel('Called')).toHaveCount(0);
  }
});

test('templates are made from a layout, renamed, duplicated, deleted and brought back', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New template' }).click();
  await page.getByRole('radio', { name: /Order confirmation/ }).check();
  await page.getByLabel('Name', { exact: true }).fill('A fresh start');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('heading', { name: 'A fresh start' })).toBeVisible();
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Engraved label: M. F., 1987–')).toBeVisible();

  await leaveFor(page, 'Templates');
  await page.getByRole('button', { name: 'More for A fresh start' }).click();
  await expect(page.getByRole('menuitem', { name: 'Rename' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('Name', { exact: true }).fill('A second start');
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByRole('button', { name: 'More for A second start' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const copy = page.getByRole('link', { name: 'A second start (copy)', exact: true });
  await expect(copy).toBeVisible();
  await page.getByRole('button', { name: 'More for A second start (copy)' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(copy).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(copy).toBeVisible();
});

test('a template file is opened, and one that is none is refused in words', async ({
  page,
  request,
}) => {
  const { template } = await copyOf(request, CART, 'From a file');
  await page.goto('/');
  await page.getByRole('button', { name: 'New template' }).click();
  const file = (name: string, text: string) => ({
    name,
    mimeType: 'application/json',
    buffer: Buffer.from(text),
  });
  const input = page.locator('input[type=file]');
  await input.setInputFiles(file('later.json', JSON.stringify({ ...template, version: 9 })));
  await expect(page.getByRole('alert')).toContainText('of version 9');
  await input.setInputFiles(file('broken.json', '{"format":'));
  await expect(page.getByRole('alert')).toContainText('not JSON');
  await input.setInputFiles(
    file('good.json', JSON.stringify({ ...template, name: 'Out of a file' })),
  );
  await expect(page.getByRole('heading', { name: 'Out of a file' })).toBeVisible();
});

test('hostile words do nothing on the canvas', async ({ page, request }) => {
  const { template } = await copyOf(request, CART, 'Hostile');
  const hostile =
    '</script><img src=x onerror="parent.document.title=1"><script>parent.document.title=2</script>';
  const text = (words: string, href: string) => ({
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: words, marks: [{ type: 'link', attrs: { href } }] },
          { type: 'tag', attrs: { formula: `"${hostile.replaceAll('"', '\\"')}"` } },
        ],
      },
    ],
  });
  const blocks = [
    { kind: 'text', id: 'h1', text: text(hostile, 'javascript:parent.document.title=3') },
  ];
  const sections = [{ kind: 'section', id: 's1', columns: [{ kind: 'column', id: 'c1', blocks }] }];
  const made = await request.post('/api/templates', {
    data: { template: { ...template, sections, name: hostile } },
  });
  const { id } = (await made.json()) as { id: string };
  const mail = await openDesk(page, id);
  await expect(mail.getByText('</script><img src=x').first()).toBeVisible();
  await expect(mail.locator('img[src="x"], script')).toHaveCount(0);
  await expect(mail.locator('a[href^="javascript"]')).toHaveCount(0);
  await mail.getByText('</script>').first().click();
  expect(await page.title()).toContain('Carafe');
  await page.goto('/');
  await expect(page.getByRole('link', { name: hostile, exact: true })).toBeVisible();
  expect(await page.title()).toBe('Templates · Carafe');
});

test('what was deleted is listed in the library and restored from there', async ({
  page,
  request,
}) => {
  const name = 'Deleted by mistake';
  const { id } = await copyOf(request, CART, name);
  await request.delete(`/api/templates/${id}`);
  await page.goto('/library');
  await page.getByRole('link', { name: 'Recently deleted' }).click();
  await page.getByRole('textbox', { name: 'Search what was deleted' }).fill('by mistake');
  await expect(page.getByRole('row')).toHaveCount(2);
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: `Restore ${name}` }).click();
  await expect(page.getByText(`“${name}” was restored`)).toBeVisible();
  await expect(page.getByRole('button', { name: `Restore ${name}` })).toHaveCount(0);
  await openDesk(page, id);
  await expect(page.getByRole('heading', { name })).toBeVisible();
});

test('anything is found with Ctrl+K, and the keys are listed with ?', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Finder');
  await openDesk(page, id);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toContainText(
    'next or previous recipient',
  );
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByRole('textbox', { name: 'Find anything' }).fill('November');
  await expect(page.getByRole('dialog', { name: 'Find anything' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'The November letter' })).toBeVisible();
});

test('the first visit is light: what it shows needs little, and the desk comes when there is time', async ({
  page,
}) => {
  // Time is there when the test says so.
  await page.addInitScript(() => {
    window.requestIdleCallback = (work) => {
      Object.assign(window, { whenIdle: () => work({} as IdleDeadline) });
      return 1;
    };
  });
  const sizes: number[] = [];
  let asked = 0;
  const script = (request: Request) => request.resourceType() === 'script';
  const ask = (request: Request) => {
    if (script(request)) asked++;
  };
  const weigh = async (request: Request) => {
    if (script(request)) sizes.push((await request.sizes()).responseBodySize);
  };
  page.on('request', ask);
  page.on('requestfinished', weigh);
  await page.goto('/');
  await expect(page.locator('iframe').first()).toBeVisible();
  await expect.poll(() => sizes.length === asked).toBe(true);
  const total = sizes.reduce((sum, size) => sum + size, 0);
  expect(total).toBeGreaterThan(10_000);
  expect(total).toBeLessThan(400_000);
  page.off('requestfinished', weigh);
  const desk = page.waitForResponse((response) => /\/Desk-[^/]*\.js$/.test(response.url()));
  await page.evaluate(() => (window as unknown as { whenIdle: () => void }).whenIdle());
  expect((await desk).ok()).toBe(true);
});
