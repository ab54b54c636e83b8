import { expect, test, type Page } from './carafe';
import { add, copyOf, htmlFor, inspector, line, openDesk, outline, saved, writeAnew } from './desk';

const CART = 'You left these on the potting bench';

/** A new template from an empty page. */
async function blank(page: Page, name: string) {
  await page.goto('/');
  await page.getByRole('button', { name: 'New template' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.keyboard.press('Enter');
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Write here.')).toBeVisible();
  await line(page, 'Write here.').click();
  return mail;
}
test('a cart mail with a coupon that shows from a sum on, built as a sentence', async ({
  page,
}) => {
  const mail = await blank(page, 'Cart with coupon');
  await add(page, 'Lines');
  await expect(mail.getByText('Long Tom pot')).toBeVisible();
  await add(page, 'Coupon');
  const coupon = mail.locator('span', { hasText: /^[A-Z0-9-]{5,}$/ }).first();
  await expect(coupon).toBeVisible();
  // What it is worth comes from the data: no editor opens over it.
  await expect(page.getByRole('textbox', { name: 'What it is worth in place' })).toHaveCount(0);
  await inspector(page).getByRole('button', { name: 'Add a condition' }).click();
  await page.getByRole('textbox', { name: 'Search fields' }).fill('cart total');
  await page.keyboard.press('Enter');
  await inspector(page).getByLabel('How Cart total is compared').selectOption('at_least');
  await inspector(page).getByLabel('Value for Cart total').fill('50');
  await expect(inspector(page).getByTestId('audience')).toContainText(/\d+ of [\d,]+ people/);
  await expect(coupon).toBeVisible();
  await inspector(page).getByRole('button', { name: 'View one who does not match' }).click();
  await expect(coupon).toHaveCount(0);
  await expect(outline(page).getByText(/hidden: cart/)).toBeVisible();
  await page.getByRole('button', { name: 'Show everyone' }).click();
  await expect(coupon).toBeVisible();
  const code = (await coupon.textContent()) ?? '';
  expect(await htmlFor(page, 'maud.fennimore1@post.example')).toContain(code);
});

test('a digest of posts, the first one large, and what is said when there is none', async ({
  page,
}) => {
  const mail = await blank(page, 'Digest');
  await add(page, 'Posts');
  await expect(mail.getByText('Read on').first()).toBeVisible();
  await expect(mail.getByText('Read on')).toHaveCount(3);
  await inspector(page).getByRole('switch', { name: 'First one large' }).check({ force: true });
  // Other tests may have published a post without a picture: the type tells the large one.
  await expect(mail.locator('div[style*="font-size:24px"]')).toHaveCount(1);
  await inspector(page).getByRole('textbox', { name: 'If the list is empty' }).fill('All quiet.');
  await inspector(page).getByRole('button', { name: 'As a formula' }).first().click();
  await writeAnew(
    inspector(page).getByRole('textbox', { name: 'Filter' }),
    'post.title is "nothing"',
  );
  await expect(mail.getByText('All quiet.')).toBeVisible();
  await expect(mail.getByText('Read on')).toHaveCount(0);
});

test('blocks are put into a group that repeats, and copied to another template', async ({
  page,
  request,
}) => {
  const mail = await blank(page, 'Grouped');
  await page.keyboard.press('Control+g');
  await expect(outline(page).locator('[aria-current="true"]')).toContainText('Group');
  await inspector(page).getByRole('button', { name: 'Repeat' }).click();
  await inspector(page).getByRole('button', { name: 'Repeat this for each …' }).click();
  await page.getByRole('textbox', { name: 'Search fields' }).fill('cart lines');
  await page.keyboard.press('Enter');
  await expect(mail.getByText('Write here.')).toHaveCount(3);
  await expect(outline(page).getByText('3 lines')).toBeVisible();
  await line(page, /Group/).click();
  await page.keyboard.press('Control+c');
  await saved(page);
  const { id } = await copyOf(request, CART, 'Takes a group');
  const other = await openDesk(page, id);
  await line(page, /^Together/).click();
  await page.keyboard.press('Control+v');
  await expect(other.getByText('Write here.')).toHaveCount(3);
  await expect(outline(page).locator('[aria-current="true"]')).toContainText('Group');
  await page.keyboard.press('Control+Shift+g');
  await expect(other.getByText('Write here.')).toHaveCount(1);
  await saved(page);
});

test('three products are picked by hand, and one of them is changed for this mail', async ({
  page,
}) => {
  const mail = await blank(page, 'By hand');
  await add(page, 'Cards');
  await inspector(page).getByRole('button', { name: 'Pick products by hand' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pick products' });
  for (const name of ['trowel', 'Long Tom', 'foxglove']) {
    await dialog.getByRole('textbox', { name: 'Search products' }).fill(name);
    await dialog
      .getByRole('region', { name: 'Products of the catalog' })
      .getByRole('button', { name: new RegExp(name, 'i') })
      .first()
      .click();
  }
  await expect(dialog.getByRole('region', { name: 'Picked' }).getByRole('listitem')).toHaveCount(3);
  await dialog.getByRole('button', { name: /^Move .*foxglove up/i }).click();
  await dialog.getByRole('textbox', { name: 'Search products' }).fill('');
  await dialog.getByLabel('Category').and(page.locator('input')).fill('Bulbs');
  await dialog.getByRole('textbox', { name: 'Price up to' }).fill('5.50');
  await dialog.getByRole('checkbox', { name: 'In stock' }).check();
  const catalog = dialog.getByRole('region', { name: 'Products of the catalog' });
  const bulbs = catalog.getByRole('button', { name: /B-\d+ / });
  await expect(catalog.getByRole('button', { name: /S-\d+ / })).toHaveCount(0);
  await expect(bulbs.first()).toBeVisible();
  // The list follows what is asked: until then the one before stands there.
  const dearest = async () => {
    const shown = await bulbs.locator('.figures').allTextContents();
    const prices = shown.map((price) => Number(price.replace(/[^\d.]/g, '')));
    return prices.length === 0 ? Number.POSITIVE_INFINITY : Math.max(...prices);
  };
  await expect.poll(dearest).toBeLessThanOrEqual(5.5);
  await bulbs.first().click();
  const picked = dialog.getByRole('region', { name: 'Picked' }).getByRole('listitem');
  await expect(picked).toHaveCount(4);
  // What came last is dragged to the top.
  const grip = picked.nth(3).getByRole('button', { name: /^Reorder/ });
  const name = ((await grip.getAttribute('aria-label')) ?? '').replace('Reorder ', '');
  await grip.hover();
  await page.mouse.down();
  const top = await picked.first().boundingBox();
  await page.mouse.move((top?.x ?? 0) + 8, (top?.y ?? 0) + 12, { steps: 8 });
  await page.mouse.move((top?.x ?? 0) + 8, (top?.y ?? 0) + 4, { steps: 3 });
  await page.mouse.up();
  await expect(picked.first()).toContainText(name);
  await dialog.getByRole('button', { name: `Remove ${name}` }).click();
  await expect(picked).toHaveCount(3);
  await dialog.getByRole('button', { name: 'Done' }).click();
  const cards = mail.locator('.carafe-card-2');
  await expect(cards).toHaveCount(3);
  await expect(cards.nth(1)).toContainText(/foxglove/i);

  await inspector(page).getByRole('button', { name: 'Change one product' }).click();
  await inspector(page).getByLabel('Product to change').and(page.locator('input')).fill('S-101');
  await inspector(page).getByRole('textbox', { name: 'Label' }).fill('Grown for you');
  await expect(mail.getByText('Grown for you')).toHaveCount(1);
  await expect(outline(page).getByText(/1 changed/)).toBeVisible();
  await saved(page);
});

test('a block is dragged in the outline to where it falls, and back by undo', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Dragged');
  await openDesk(page, id);
  const order = () => outline(page).locator('button[aria-current]').allTextContents();
  const place = async (says: string) => (await order()).findIndex((t) => t.startsWith(says));
  expect(await place('Back to the bench')).toBeGreaterThan(await place('Table of cart lines'));
  await line(page, 'Back to the bench').dragTo(line(page, 'Table of cart lines'), {
    targetPosition: { x: 40, y: 3 },
  });
  await expect
    .poll(async () => (await place('Table of cart lines')) - (await place('Back to the bench')))
    .toBe(1);
  await expect(outline(page).locator('[aria-current="true"]')).toContainText('Back to the bench');
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await place('Back to the bench')) > (await place('Table of cart lines')))
    .toBe(true);
});

test('blocks are dragged from the list into the mail, and within it, with a line where they fall', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Dragged into the email');
  const mail = await openDesk(page, id);
  const order = () => outline(page).locator('button[aria-current]').allTextContents();
  const place = async (says: string) => (await order()).findIndex((t) => t.startsWith(says));
  await line(page, 'Together').click();
  await page.keyboard.press('/');
  await page.getByRole('textbox', { name: 'Search blocks' }).fill('Divider');
  const divider = page.getByRole('option', { name: /^Divider/ });
  await divider.dragTo(line(page, 'You left these'), { targetPosition: { x: 60, y: 3 } });
  await expect.poll(async () => (await place('You left these')) - (await place('Divider'))).toBe(1);
  await expect(page.getByRole('listbox', { name: 'Blocks' })).toHaveCount(0);

  await line(page, 'Together').click();
  const grip = page.getByTitle('Drag to another place');
  const heading = mail.getByText('You left these on the potting bench');
  await grip.hover();
  await page.mouse.down();
  const to = await heading.boundingBox();
  if (!to) throw new Error('The heading is nowhere.');
  await page.mouse.move(to.x + 60, to.y + 40, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 3, { steps: 4 });
  await expect(page.getByTestId('fall')).toBeVisible();
  await page.mouse.up();
  await expect
    .poll(async () => (await place('You left these')) - (await place('Together')))
    .toBe(1);
  await expect(page.getByTestId('fall')).toHaveCount(0);
});

test('several parts are selected, copied, put into a group and deleted together', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Several at once');
  const mail = await openDesk(page, id);
  const lines = outline(page).locator('button[aria-current]');
  await expect(line(page, /Hello ‹first_name›/)).toBeVisible();
  const before = await lines.count();
  await line(page, /Hello ‹first_name›/).click();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(outline(page).locator('[aria-pressed="true"]')).toHaveCount(1);
  await page.keyboard.press('Control+d');
  await expect(lines).toHaveCount(before + 2);
  await expect(mail.getByText(/Hello Maud/)).toHaveCount(2);
  await page.keyboard.press('Control+g');
  await expect(lines).toHaveCount(before + 3);
  await expect(outline(page).locator('[aria-current="true"]')).toContainText('Group');
  await page.keyboard.press('Control+z');
  await line(page, /Hello ‹first_name›/).click();
  await line(page, /^Together/).click({ modifiers: ['Control'] });
  await page.keyboard.press('Delete');
  await expect(page.getByRole('status').filter({ hasText: 'Deleted: 2 parts' })).toBeAttached();
  await expect(lines).toHaveCount(before);
  await page.keyboard.press('Control+z');
  await expect(lines).toHaveCount(before + 2);

  // A section of its own, asked for by name.
  await line(page, /^Together/).click();
  const find = async (name: string) => {
    await page.keyboard.press('Control+k');
    const search = page.getByRole('textbox', { name: 'Find anything' });
    await expect(search).toBeFocused();
    await search.fill(name);
    await expect(page.getByRole('button', { name }).first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(search).toHaveCount(0);
  };
  await find('Move to its own section');
  await expect(outline(page).locator('[aria-current="true"]')).toHaveText('Section');
  // What stood behind it stands in a section, too.
  await expect(lines).toHaveCount(before + 4);
  await find('Publish');
  await expect(page.getByRole('dialog', { name: 'Publish' })).toBeVisible();
});
