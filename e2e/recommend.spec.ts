import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { add, copyOf, inspector, line, openDesk, outline, saved } from './desk';

const CART = 'You left these on the potting bench';

test('cards show what a rule picks for each recipient, with the reason in the mail', async ({
  page,
  request,
}) => {
  const rule = {
    ...{ name: 'beside_cart', label: 'Beside the cart', number: 3 },
    steps: [
      { take: 2, step: { kind: 'bought_together', seed: 'cart' } },
      { take: 3, step: { kind: 'best_sellers', days: 365, by: 'buyers' } },
    ],
    exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
    spread: { by: 'category', most: 2 },
  };
  const made = await request.post('/api/shops/quillmoss-gb/rules', { data: rule });
  expect(made.status()).toBe(201);
  const { id: ruleId } = (await made.json()) as { id: string };
  const { id } = await copyOf(request, CART, 'With picks');
  const mail = await openDesk(page, id);
  await line(page, 'Together').click();
  await add(page, 'Cards');
  await inspector(page)
    .getByRole('textbox', { name: 'List', exact: true })
    .fill('picks.beside_cart');
  const cards = mail.locator('.carafe-card-2');
  await expect(cards).toHaveCount(3);
  await expect(
    outline(page)
      .getByText('3 products')
      .or(outline(page).getByText(/3 members/)),
  ).toHaveCount(1);
  const first = await cards.allTextContents();
  // Nothing that lies in the cart is recommended.
  for (const text of first) expect(text).not.toContain('Long Tom pot');
  const picked = await request.get(
    '/api/shops/quillmoss-gb/picks/beside_cart/maud.fennimore1@post.example',
  );
  const { picks } = (await picked.json()) as { picks: { name: string; reason: string }[] };
  picks.forEach(({ name }, i) => expect(first[i]).toContain(name));
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: /^The mail\./ }).focus();
  await page.keyboard.press('j');
  await expect.poll(() => cards.allTextContents()).not.toEqual(first);
  await expect(cards).toHaveCount(3);
  await saved(page);
  await request.delete(`/api/rules/${ruleId}`);
});

test('a rule is built, tried for people, and deleted', async ({ page }) => {
  await page.goto('/recommendations');
  await page.getByRole('button', { name: 'Add a rule' }).click();
  const rule = page.getByRole('region', { name: 'Rule' });
  const picks = page.getByRole('region', { name: 'Picks' });
  await picks.getByLabel('Picks for').fill('maud');
  await expect(picks.getByText(/^Maud Fennimore/)).toBeVisible();
  await expect(picks.getByRole('listitem').first()).toContainText(
    /Goes with your .*Step 1: bought/,
  );
  await rule.getByRole('textbox', { name: 'Name' }).fill('Beside the cart');
  await rule.getByRole('textbox', { name: 'How many products' }).focus();
  await expect(page.getByRole('button', { name: /^Beside the cart/ })).toBeVisible();
  // Without the step that goes with the cart, the best sellers are left.
  await rule.getByRole('button', { name: 'Take step 1 out' }).click();
  await expect(picks.getByRole('listitem').first()).toContainText(/Much bought of late/);
  await rule.getByRole('button', { name: 'Add a step' }).click();
  await rule.getByRole('button', { name: 'Step 2 up' }).click();
  await expect(picks.getByRole('listitem').first()).toContainText(/New in the shop/);
  await picks.getByLabel('Picks for').fill('nobody@post.example');
  await expect(picks.getByText('Somebody of whom nothing is known')).toBeVisible();
  await expect(picks.getByText(/New in the shop/).first()).toBeVisible();
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([]);
  }
  await rule.getByRole('button', { name: 'Delete the rule' }).click();
  await expect(page.getByText('There is no rule yet.')).toBeVisible();
});
