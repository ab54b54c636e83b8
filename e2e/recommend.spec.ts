import { axeFindsInBoth } from './axe';
import { expect, test } from './carafe';
import { add, copyOf, inspector, line, openDesk, outline, saved, writeAnew } from './desk';

const CART = 'You left these on the potting bench';

test('cards show what a rule picks for each recipient, with the reason in the mail', async ({
  page,
  request,
}) => {
  const rule = {
    ...{ name: 'with_it', label: 'With it', number: 3 },
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
  await writeAnew(
    inspector(page).getByRole('textbox', { name: 'List', exact: true }),
    'picks.with_it',
  );
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
    '/api/shops/quillmoss-gb/picks/with_it/maud.fennimore1@post.example',
  );
  const { picks } = (await picked.json()) as { picks: { name: string; reason: string }[] };
  picks.forEach(({ name }, i) => expect(first[i]).toContain(name));
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: /^The email\./ }).focus();
  // Why each of them stands there, and what was passed over.
  await page.keyboard.press('b');
  const why = page.getByRole('region', { name: 'Why' });
  await expect(why.getByRole('list', { name: 'Picked' }).getByRole('listitem')).toHaveCount(3);
  await expect(why.getByText(picks[0]?.reason ?? '?').first()).toBeVisible();
  await page.keyboard.press('b');
  await page.getByRole('group', { name: /^The email\./ }).focus();
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
  await rule.getByRole('textbox', { name: 'Name', exact: true }).fill('Of our own');
  await rule.getByRole('textbox', { name: 'How many products' }).focus();
  await expect(page.getByRole('button', { name: /^Of our own/ })).toBeVisible();
  // Without the step that goes with the cart, the best sellers are left.
  await rule.getByRole('button', { name: 'Remove step 1' }).click();
  await expect(picks.getByRole('listitem').first()).toContainText(/Popular right now/);
  await rule.getByRole('button', { name: 'Add a step' }).click();
  await rule.getByRole('button', { name: 'Step 2 up' }).click();
  await expect(picks.getByRole('listitem').first()).toContainText(/New in the shop/);
  // Gone back from, and taken once more by dragging.
  await rule.getByRole('button', { name: 'Undo' }).click();
  await expect(picks.getByRole('listitem').first()).toContainText(/Popular right now/);
  await page.getByRole('heading', { name: 'Recommendations' }).scrollIntoViewIfNeeded();
  await rule.getByTitle('Drag to another place').nth(1).dragTo(rule.getByRole('listitem').first());
  await expect(picks.getByRole('listitem').first()).toContainText(/New in the shop/);
  await picks.getByLabel('Picks for').fill('nobody@post.example');
  await expect(picks.getByText('A person nothing is known about')).toBeVisible();
  await expect(picks.getByText(/New in the shop/).first()).toBeVisible();
  expect(await axeFindsInBoth(page)).toEqual([]);
  await rule.getByRole('button', { name: 'Delete the rule' }).click();
  await expect(page.getByRole('button', { name: /^Of our own/ })).toHaveCount(0);
});

test('a rule is counted over everybody and tried on the past, beside another', async ({ page }) => {
  await page.goto('/recommendations');
  await page.getByRole('button', { name: /^New for you/ }).click();
  const everybody = page.getByRole('region', { name: 'Everybody' });
  await everybody.getByRole('button', { name: 'Count' }).click();
  await expect(everybody.getByRole('status')).toHaveText(/^([\d,]+) of \1 people$/, {
    timeout: 60_000,
  });
  await expect(everybody.getByRole('img', { name: /^How unevenly/ })).toBeVisible();
  await expect(everybody.getByRole('row').filter({ hasText: 'Seeds' })).toContainText('of 40');
  const past = page.getByRole('region', { name: 'Test on past orders' });
  await past.getByRole('combobox', { name: 'Beside' }).click();
  await page.getByRole('option', { name: 'After the purchase' }).click();
  await past.getByRole('button', { name: 'Try', exact: true }).click();
  const told = (name: string) => past.getByRole('row').filter({ hasText: name });
  await expect(told('New for you')).toContainText(/: more/, { timeout: 60_000 });
  await expect(told('After the purchase')).toContainText(/: more/);
  await expect(told('At random')).toBeVisible();
  await expect(past.getByText(/New for you against After the purchase/)).toBeVisible();
  expect(await axeFindsInBoth(page)).toEqual([]);
});

test('what a rule cannot be is refused in words, and stays as it was', async ({
  page,
  request,
}) => {
  await page.goto('/recommendations');
  await page.getByRole('button', { name: /^Due again/ }).click();
  const rule = page.getByRole('region', { name: 'Rule' });
  await expect(rule.getByText('Shown in')).toBeVisible();
  await rule.getByRole('button', { name: 'Delete the rule' }).click();
  await expect(
    page.getByText(/is used in “Chosen for you”, so it cannot be deleted/),
  ).toBeVisible();
  await rule.getByLabel('Used in formulas as').fill('new_for_you');
  await rule.getByRole('textbox', { name: 'Name', exact: true }).focus();
  await expect(rule.getByRole('alert')).toContainText(/There is a rule “new_for_you” already/);
  await expect(rule.getByLabel('Used in formulas as')).toHaveValue('due_again');
  const { rules } = (await (await request.get('/api/shops/quillmoss-gb/rules')).json()) as {
    rules: { rule: { name: string } }[];
  };
  expect(rules.map((one) => one.rule.name)).toContain('due_again');
});
