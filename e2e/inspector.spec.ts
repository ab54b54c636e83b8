import { expect, test } from './carafe';
import { copyOf, inspector, line, openDesk, saved, writeAnew } from './desk';

const CART = 'You left these on the potting bench';
const LETTER = 'The November letter';

test('cards: columns, order of fields, and more fields', async ({ page, request }) => {
  const { id } = await copyOf(request, LETTER, 'Cards');
  const mail = await openDesk(page, id);
  await line(page, /Cards of/).click();
  await expect(mail.locator('.carafe-card-3')).not.toHaveCount(0);
  await inspector(page).getByRole('radiogroup', { name: 'Side by side' }).getByText('2').click();
  await expect(mail.locator('.carafe-card-3')).toHaveCount(0);
  const card = mail.locator('.carafe-card-2').first();
  await expect(card).toContainText(/^\s*Hand-forged trowel\s*£48.20/);
  const grip = inspector(page).getByRole('button', { name: 'Reorder Price', exact: true });
  const move = async (...steps: [key: string, told: string | RegExp][]) => {
    await grip.focus();
    for (const [key, told] of steps) {
      // A key that first has to scroll the inspector moves nothing yet: then it is pressed once more.
      await expect(async () => {
        await page.keyboard.press(key);
        await expect(page.getByText(told)).toBeAttached({ timeout: 2_000 });
      }).toPass();
    }
  };
  await move(
    ['Space', /Now at 3 of 3|Picked up 3 of 3/],
    ['ArrowUp', 'Now at 2 of 3'],
    ['ArrowUp', 'Now at 1 of 3'],
    ['Space', 'Moved to 1 of 3'],
  );
  await expect(card).toContainText(/^\s*£48.20\s*Hand-forged trowel/);
  // What is held is left where it was, and the work goes on there.
  await move(
    ['Space', /Now at 1 of 3|Picked up 1 of 3/],
    ['ArrowDown', 'Now at 2 of 3'],
    ['Escape', 'Still at 1 of 3'],
  );
  await expect(grip).toBeFocused();
  await expect(card).toContainText(/^\s*£48.20\s*Hand-forged trowel/);
  await inspector(page).getByRole('button', { name: 'Add to each card' }).click();
  await page.getByRole('menuitem', { name: 'Button' }).click();
  await expect(card.getByRole('link', { name: 'View' })).toBeVisible();
  await inspector(page).getByRole('button', { name: 'Remove Picture' }).click();
  await expect(card.locator('img')).toHaveCount(0);
  await saved(page);
});

test('lines and totals: columns, headings, properties, rows', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Tables');
  const mail = await openDesk(page, id);
  await line(page, /Table of cart.lines/).click();
  await inspector(page).getByRole('button', { name: 'Add a column' }).click();
  await expect(mail.getByRole('columnheader', { name: 'Unit price' })).toBeVisible();
  await inspector(page)
    .getByRole('switch', { name: /^Properties/ })
    .check({ force: true });
  await expect(mail.getByText('Engraved label: Auriculas')).toBeVisible();
  await inspector(page)
    .getByRole('switch', { name: 'Variant under the name' })
    .uncheck({ force: true });
  await expect(mail.getByText('26 cm')).toHaveCount(0);

  await line(page, /Together/).click();
  await inspector(page).getByRole('button', { name: 'Add a row' }).click();
  const amounts = inspector(page).getByRole('textbox', { name: 'Amount' });
  await expect(amounts).toHaveCount(2);
  await writeAnew(amounts.last(), 'cart.quantity * 2');
  await expect(mail.getByText('£12.00')).toBeVisible();
  await writeAnew(
    inspector(page).getByRole('textbox', { name: 'Condition' }).last(),
    'cart.total > 1000',
  );
  await expect(mail.getByText('£12.00')).toHaveCount(0);
});

test('an else is added, gone to, and taken off', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Else');
  const mail = await openDesk(page, id);
  await line(page, /Back to the bench/).click();
  await inspector(page).getByRole('button', { name: 'As a formula' }).click();
  await writeAnew(
    inspector(page).getByRole('textbox', { name: 'Show only if' }),
    'cart.total > 1000',
  );
  await expect(mail.getByText('Back to the bench')).toHaveCount(0);
  await inspector(page).getByRole('button', { name: 'Show an alternative if not' }).click();
  await expect(mail.getByText('Write here.')).toBeVisible();
  await line(page, /Back to the bench/).click();
  await inspector(page).getByRole('button', { name: 'Remove it' }).click();
  await expect(mail.getByText('Write here.')).toHaveCount(0);
});

test('a section gets columns and a ground; what stood in a column that goes is kept', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, 'Thank you for your order', 'Columns');
  const mail = await openDesk(page, id);
  await line(page, 'Where it goes').click();
  const columns = inspector(page).getByRole('radiogroup', { name: 'Columns' });
  await columns.getByText('1').click();
  await expect(mail.getByText('It goes to')).toBeVisible();
  await expect(mail.getByText('“Please leave it in the greenhouse.”')).toBeVisible();
  const left = (text: string) =>
    mail.getByText(text).evaluate((e) => Math.round(e.getBoundingClientRect().left));
  await expect
    .poll(async () => (await left('It goes to')) === (await left('You asked')))
    .toBe(true);
  await inspector(page).getByRole('textbox', { name: 'Ground' }).fill('#ffeecc');
  await expect(mail.locator('div[style*="#ffeecc"]').first()).toBeAttached();
});

test('the envelope is edited, and the house style colours buttons', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Envelope');
  const mail = await openDesk(page, id);
  await line(page, 'Envelope and style').click();
  await inspector(page)
    .getByRole('textbox', { name: 'Name of the template' })
    .fill('A better name');
  await expect(page.getByRole('heading', { name: 'A better name' })).toBeVisible();
  await inspector(page).getByRole('textbox', { name: 'Buttons and links' }).fill('#123456');
  await expect(mail.locator('a[style*="#123456"]').first()).toBeVisible();
  await inspector(page).getByRole('textbox', { name: 'Subject' }).focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('!');
  await saved(page);
  const stored = (await (await request.get(`/api/templates/${id}`)).json()) as {
    template: { envelope: { subject: string } };
  };
  expect(stored.template.envelope.subject).toMatch(/ is still here!$/);
});

test('the mail is looked at on a phone, in the dark, without pictures, and on another day', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Looking');
  const mail = await openDesk(page, id);
  await page.getByLabel('Phone width').click();
  await expect.poll(() => mail.locator('body').evaluate((b) => b.clientWidth)).toBe(375);
  await page.getByRole('button', { name: 'Pictures off' }).click();
  await expect(mail.locator('img[src]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Pictures off' }).click();
  await expect(mail.locator('img[src]')).not.toHaveCount(0);
  await page.getByRole('button', { name: /^Dark mode, roughly/ }).click();
  await expect
    .poll(() => mail.locator('html').evaluate((h) => getComputedStyle(h).filter))
    .toContain('invert');

  await line(page, /Before you sow/).click();
  await inspector(page).getByRole('textbox', { name: 'Heading', exact: true }).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' {{ date(today, "yyyy-MM-dd") }}');
  await page.getByLabel('Preview date').fill('3 Feb 2027');
  await expect(mail.getByText('Before you sow 2027-02-03')).toBeVisible();
});

test('a link is put on words, with a tag in its address', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Links');
  const mail = await openDesk(page, id);
  await line(page, /Soak the seed/).click();
  await inspector(page).getByRole('textbox', { name: 'Text', exact: true }).click();
  await page.keyboard.press('Control+a');
  await inspector(page).getByRole('button', { name: 'Link', exact: true }).click();
  await page.getByLabel('Link address').fill('{{ shop.url }}/sowing');
  await page.getByRole('button', { name: 'Set the link' }).click();
  await expect(mail.getByRole('link', { name: /Soak the seed/ })).toHaveAttribute(
    'href',
    'https://shop.quillmoss.example/sowing',
  );
});

test('Why tells lists, values and conditions of the whole email', async ({ page, request }) => {
  const { id } = await copyOf(request, LETTER, 'Why');
  await openDesk(page, id);
  await page.keyboard.press('b');
  const because = page.getByRole('region', { name: 'Why' });
  await expect(because).toContainText('240 in the list, 6 after the filter, 6 shown');
  await expect(because).toContainText('person.rank >= 4');
  await line(page, /Opening/).click();
  await expect(because).toContainText('person.first_name');
  await expect(because).not.toContainText('person.rank');
});
