import { axeFinds } from './axe';
import { expect, test, type Page } from './carafe';
import { leaveFor, add, arrowsTo, copyOf, inspector, line, openDesk, outline, saved } from './desk';

const CART = 'You left these on the potting bench';

/** What has the focus, as it is called. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement;
    return (at?.getAttribute('aria-label') ?? at?.textContent ?? '').trim();
  });

/** Goes on by Tab until what is called so has the focus. */
async function tabTo(page: Page, name: RegExp, most = 40): Promise<void> {
  const seen: string[] = [];
  for (let i = 0; i < most; i++) {
    await page.keyboard.press('Tab');
    const now = await focused(page);
    if (name.test(now)) return;
    seen.push(now);
  }
  throw new Error(`Nothing called ${name.source} was reached: ${seen.join(' | ')}`);
}

test('a cart mail is built from a blank page by keyboard alone', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New template' })).toBeVisible();
  await tabTo(page, /^New template$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New template' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await page.keyboard.type('By keyboard');
  await page.keyboard.press('Enter');
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Write here.')).toBeVisible();

  await arrowsTo(page, 'Write here.');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Text in place' })).toBeFocused();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Hello {{ person.first_name otherwise "there" }}, you left this.');
  await page.keyboard.press('Escape');
  await expect(mail.getByText('Hello Maud, you left this.')).toBeVisible();

  await add(page, 'Lines');
  await expect(mail.getByText('Long Tom pot')).toBeVisible();
  await add(page, 'Totals');
  await expect(mail.getByText('£71.45').first()).toBeVisible();
  await add(page, 'Button');
  await page.keyboard.press('Enter');
  await expect(inspector(page).getByRole('textbox', { name: 'Label' })).toBeFocused();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Back to the cart');
  await tabTo(page, /^Link$/);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('{{ cart.recover_url }}');
  await expect(mail.getByRole('link', { name: 'Back to the cart' })).toHaveAttribute(
    'href',
    /\/cart\//,
  );
  await page.keyboard.press('Escape');
  await saved(page);
});

test('a merge tag is selected by the arrows, opened by Enter and deleted as one', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Tags by keyboard');
  const mail = await openDesk(page, id);
  await line(page, /^Hello/).click();
  await page.keyboard.press('Enter');
  const words = page.getByRole('textbox', { name: 'Text in place' });
  await expect(words).toBeFocused();
  const tag = words.getByRole('button', { name: /^Merge tag .*first_name/ });
  const place = () =>
    words.evaluate((element) => {
      const { editor } = element as unknown as {
        editor: { state: { selection: { from: number } } };
      };
      return editor.state.selection.from;
    });
  /** Presses keys until the editor has taken them in: it passes over what comes as it begins. */
  const until = (at: number, ...keys: string[]) =>
    expect(async () => {
      if ((await place()) !== at) for (const key of keys) await page.keyboard.press(key);
      await expect.poll(place, { timeout: 1_000 }).toBe(at);
    }).toPass();
  await until(1, 'Control+A', 'ArrowLeft');
  // Before the tag stand six letters.
  for (let at = 2; at <= 7; at++) await until(at, 'ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(tag).toHaveAttribute('data-selected', 'true');
  await page.keyboard.press('Enter');
  const fallback = page.getByRole('textbox', { name: 'Fallback' });
  await expect(fallback).toBeVisible();
  await fallback.fill('you');
  await page.keyboard.press('Escape');
  await expect(fallback).toHaveCount(0);
  await expect(words).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(words.getByRole('button', { name: /^Merge tag/ })).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(words.getByRole('button', { name: /^Merge tag/ })).toHaveCount(2);
  await page.keyboard.press('Control+Shift+z');
  await expect(words.getByRole('button', { name: /^Merge tag/ })).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(mail.getByText('Hello ,')).toBeVisible();
});

test('what was done never loses the focus: duplicate, delete, Escape, another page', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Focus');
  await openDesk(page, id);
  const mail = page.getByRole('group', { name: /^The email\./ });
  await line(page, /^Together/).click();
  await page.keyboard.press('Control+d');
  await expect(page.getByRole('status').filter({ hasText: 'Duplicated' })).toBeAttached();
  await expect(line(page, /^Together/)).toHaveCount(1);
  await expect(outline(page).locator('button', { hasText: 'Together' })).toHaveCount(2);
  await page.keyboard.press('Delete');
  await expect(outline(page).locator('button', { hasText: 'Together' })).toHaveCount(1);
  await expect(mail).toBeFocused();
  await expect(outline(page).locator('[aria-current="true"]')).toContainText('Your parcel');
  await page.keyboard.press('Escape');
  await expect(mail).toBeFocused();
  await leaveFor(page, 'Sources');
  await expect(page.getByRole('heading', { name: 'Sources' })).toBeVisible();
  await expect
    .poll(() =>
      page.evaluate(() => document.activeElement?.contains(document.querySelector('main'))),
    )
    .toBe(true);
});

test('an else is looked at and edited where it stands, whoever the recipient is', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Else');
  const mail = await openDesk(page, id);
  await expect(mail.getByText(/Your parcel travels free/)).toBeVisible();
  await line(page, /^else/).click();
  await expect(mail.getByText(/and your parcel travels free/)).toBeVisible();
  await expect(
    page.getByText(/Previewing an alternative with the data of .+, who gets/),
  ).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Text in place' })).toBeFocused();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Nearly there.');
  await page.keyboard.press('Escape');
  await expect(mail.getByText('Nearly there.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(mail.getByText(/Your parcel travels free/)).toBeVisible();
  await saved(page);
});

test('recipients are narrowed down by what is known of them, and all of them scroll', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Recipients');
  await openDesk(page, id);
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  const list = page.getByRole('listbox', { name: 'Recipients' });
  await page.getByText('Everyone', { exact: true }).click();
  await expect(page.getByText('1 of 1,250')).toBeVisible();
  await expect(async () => {
    await list.evaluate((element) => element.parentElement?.scrollTo(0, 1e9));
    await expect(page.getByRole('option').last()).toHaveAttribute('aria-posinset', '1250', {
      timeout: 200,
    });
  }).toPass();
  await page.getByRole('option').last().click();
  await expect(page.getByText('1,250 of 1,250')).toBeVisible();
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  await page.getByRole('combobox', { name: 'Name' }).click();
  await page.getByRole('option', { name: 'No name', exact: true }).click();
  await page.getByRole('textbox', { name: 'Lines in cart' }).fill('4');
  await expect(page.getByRole('option').first()).toContainText(/^No name.*[4-9] lines in the cart/);
  await expect(page.getByTestId('who')).toContainText('No name');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show everyone' }).click();
  await expect(page.getByText('1 of 1,250')).toBeVisible();
});

for (const [width, height] of [
  [1024, 768],
  [640, 400],
] as const)
  test(`at ${width} wide everything is reached, and axe finds nothing`, async ({
    page,
    request,
  }) => {
    const { id } = await copyOf(request, CART, `Narrow ${width}`);
    await page.setViewportSize({ width, height });
    for (const path of ['/', '/sources', `/templates/${id}`]) {
      await page.goto(path);
      await expect(page.getByRole('main')).toBeVisible();
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - window.innerWidth,
      );
      expect(overflow).toBeLessThanOrEqual(0);
    }
    await openDesk(page, id);
    if (width < 900) {
      await page.getByRole('button', { name: 'Outline', exact: true }).click();
      await line(page, /^Back to the bench/).click();
      await page.getByRole('button', { name: 'Inspector', exact: true }).click();
    } else await line(page, /^Back to the bench/).click();
    await inspector(page).getByRole('textbox', { name: 'Label' }).fill('To the bench');
    const mail = page.frameLocator('iframe[title^="The email"]');
    await expect(mail.getByRole('link', { name: 'To the bench' })).toBeVisible();
    expect(await axeFinds(page)).toEqual([]);
    // The frame of the selection stands where the block is.
    await expect
      .poll(() =>
        page.evaluate(() => {
          const frame = document.querySelector('iframe');
          const chosen = document.querySelector('[data-testid="chosen"]')?.getBoundingClientRect();
          const link = [...(frame?.contentDocument?.querySelectorAll('a') ?? [])]
            .find((one) => one.textContent.includes('To the bench'))
            ?.getBoundingClientRect();
          const around = frame?.getBoundingClientRect();
          if (!frame || !around || !chosen || !link) return false;
          // Where there is no room for it, the mail is shown smaller.
          const scale = around.width / frame.offsetWidth;
          const seen = (y: number) => around.top + scale * y;
          return chosen.top <= seen(link.top) && chosen.bottom >= seen(link.bottom);
        }),
      )
      .toBe(true);
    // What everybody gets is shown when it is asked for, also where panels fold away, and within its panel.
    await page.getByRole('button', { name: 'What everybody gets' }).click();
    const panel = page.getByRole('complementary', { name: 'Everybody' });
    const last = panel.getByRole('checkbox', { name: 'Looked at' }).last();
    // Rows come and are put in order while everybody is filled.
    await expect(page.getByTestId('survey-state')).toHaveAttribute('data-running', 'false');
    await expect(async () => {
      await last.scrollIntoViewIfNeeded({ timeout: 2_000 });
      await expect(last).toBeInViewport({ timeout: 500 });
      const [within, inside] = [await panel.boundingBox(), await last.boundingBox()];
      expect((inside?.y ?? 1e9) + (inside?.height ?? 0)).toBeLessThanOrEqual(
        (within?.y ?? 0) + (within?.height ?? 0),
      );
    }).toPass({ timeout: 20_000 });
  });

test('what is typed before a list or the words are open is typed there, and is no key of the desk', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, 'You left these on the potting bench', 'Typed ahead');
  const mail = await openDesk(page, id);
  await line(page, 'Before you sow').click();
  await page.keyboard.press('/');
  await page.keyboard.type('heading');
  await expect(page.getByRole('textbox', { name: 'Search blocks' })).toHaveValue('heading');
  await page.keyboard.press('Enter');
  // Each of these letters is a key of the desk.
  await page.keyboard.type('Becks vs jb');
  await expect(mail.getByText('Becks vs jb')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await page.keyboard.type(', cs');
  await expect(mail.getByText('Becks vs jb, cs')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('bec');
  await expect(page.getByRole('textbox', { name: 'Find anything' })).toHaveValue('bec');
  await page.keyboard.press('Escape');
  await saved(page);
});

test('Escape closes what is on top alone, asks before it takes words away, and gives the focus back', async ({
  page,
}) => {
  await page.goto('/library/notes');
  const write = page.getByRole('button', { name: 'Write a note' });
  await write.focus();
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('dialog', { name: 'A new note' });
  const words = sheet.getByRole('textbox', { name: 'Words' });
  await words.click();
  await page.keyboard.type('Sow thinly.');
  await page.keyboard.press('Control+a');
  await sheet.getByRole('button', { name: 'Link', exact: true }).click();
  await expect(page.getByLabel('Link address')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Link address')).toHaveCount(0);
  await expect(words).toHaveText('Sow thinly.');
  await page.keyboard.press('Control+k');
  const search = page.getByRole('textbox', { name: 'Find anything' });
  await expect(search).toBeFocused();
  await page.keyboard.type('out');
  await expect(search).toHaveValue('out');
  await page.keyboard.press('Escape');
  await expect(search).toHaveCount(0);
  await expect(words).toHaveText('Sow thinly.');

  await words.click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Keep editing' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(words).toHaveText('Sow thinly.');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Discard' }).press('Enter');
  await expect(sheet).toHaveCount(0);
  await expect(write).toBeFocused();
});
