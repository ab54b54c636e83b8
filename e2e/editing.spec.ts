import { expect, test, type APIRequestContext, type Page } from './carafe';
import {
  leaveFor,
  add,
  blur,
  copyOf,
  inspector,
  openDesk,
  line,
  outline,
  saved,
  writeAnew,
  type Stored,
} from './desk';

const CART = 'You left these on the potting bench';

test('words are edited in place, with a field put in from the list', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'In place');
  const mail = await openDesk(page, id);
  await mail.getByText('You chose').dblclick();
  const editor = page.getByRole('textbox', { name: 'Text in place' });
  await expect(editor).toBeFocused();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' You live in ');
  await page.getByRole('button', { name: 'Insert a field in Text in place' }).click();
  await page.getByLabel('Search fields').fill('person city');
  await expect(page.getByRole('option', { name: /person\.city/ })).toContainText('person.city');
  await page.keyboard.press('Enter');
  await expect(editor).toContainText(/You live in \S+/);
  await page.keyboard.press('Escape');
  await expect(mail.getByText(/You live in [A-Z]/)).toBeVisible();
  await saved(page);
});

test('typing braces makes a tag', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Braces');
  const mail = await openDesk(page, id);
  await line(page, /You left these/).click();
  const heading = inspector(page).getByRole('textbox', { name: 'Heading', exact: true });
  await heading.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(', {{ upper(person.last_name) }}');
  await expect(mail.getByRole('heading', { level: 1 })).toHaveText(
    'You left these on the potting bench, FENNIMORE',
  );
});

test('a field is asked for in the midst of words, by braces or a slash, and put in by Enter', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Asked for');
  const mail = await openDesk(page, id);
  await line(page, /You left these/).click();
  await inspector(page).getByRole('textbox', { name: 'Heading', exact: true }).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(', {{last na');
  const fields = page.getByRole('listbox', { name: 'Fields' });
  await expect(fields).toHaveCount(1);
  await expect(fields.locator('[data-combobox-selected]')).toContainText('person.last_name');
  await page.keyboard.press('Enter');
  await expect(fields).toHaveCount(0);
  await page.keyboard.type(' of /city');
  await expect(fields.locator('[data-combobox-selected]')).toContainText('person.city');
  await page.keyboard.press('Tab');
  await page.keyboard.type(' and/or');
  await expect(fields).toHaveCount(0);
  // Escape closes the list alone, and leaves what was typed.
  await page.keyboard.type(' /');
  await expect(fields).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(fields).toHaveCount(0);
  await page.keyboard.type('3');
  await expect(mail.getByRole('heading', { level: 1 })).toHaveText(
    /^You left these on the potting bench, Fennimore of Whitby and\/or \/3$/,
  );
});

test('what is typed right after a double click stands in the words', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Typed at once');
  const mail = await openDesk(page, id);
  await mail.getByText('You left these').first().dblclick();
  await page.keyboard.type(', and so on');
  await expect(mail.getByRole('heading', { level: 1 })).toHaveText(/potting bench, and so on$/);
  // Words as they were born are all selected when they open: End is not lost on the way, either.
  await page.keyboard.press('Escape');
  await add(page, 'Text');
  await page.keyboard.press('Escape');
  await mail.getByText('Write here.').dblclick();
  await page.keyboard.press('End');
  await page.keyboard.type(' Or there.');
  await expect(mail.getByText('Write here. Or there.')).toBeVisible();
});

test('a loop and a condition are edited and seen at once; undo and redo are exact', async ({
  page,
  request,
}) => {
  const { id, template } = await copyOf(request, CART, 'Loops');
  const mail = await openDesk(page, id);
  const pictures = mail.locator('img[width="56"]');
  await line(page, /Table of cart.lines/).click();
  await inspector(page).getByRole('button', { name: 'As a formula' }).first().click();
  await writeAnew(inspector(page).getByRole('textbox', { name: 'Filter' }), 'line.price > 5');
  await expect(pictures).toHaveCount(2);
  await expect(outline(page).getByText('2 of 3 lines')).toBeVisible();
  await writeAnew(inspector(page).getByRole('textbox', { name: 'Sort by' }), 'line.total');
  await inspector(page).getByRole('textbox', { name: 'At most' }).fill('1');
  await expect(pictures).toHaveCount(1);
  await expect(mail.getByText('Long Tom pot')).toBeVisible();

  await line(page, /Your parcel travels free/).click();
  await writeAnew(
    inspector(page).getByRole('textbox', { name: 'Show only if' }),
    'cart.totl >= 90',
  );
  await expect(
    inspector(page)
      .getByText(/Nothing is named “totl” here/)
      .first(),
  ).toBeVisible();
  await inspector(page).getByRole('button', { name: 'Use total' }).first().click();
  await expect(inspector(page).getByRole('textbox', { name: 'Show only if' })).toHaveText(
    'cart.total >= 90',
  );
  await expect(mail.getByText(/Another -£21.45 and/)).toBeVisible();
  await saved(page);

  await blur(page);
  const undo = page.getByRole('button', { name: 'Undo', exact: true });
  while (await undo.isEnabled()) await undo.click();
  await expect(pictures).toHaveCount(3);
  await saved(page);
  const stored = (await (await request.get(`/api/templates/${id}`)).json()) as Stored;
  expect(stored.template).toEqual(template);
  const redo = page.getByRole('button', { name: 'Redo' });
  while (await redo.isEnabled()) await redo.click();
  await expect(pictures).toHaveCount(1);
});

test('blocks are added with slash, moved, doubled and deleted by key', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Keys');
  const mail = await openDesk(page, id);
  await line(page, /Together/).click();
  await blur(page);
  await page.keyboard.press('/');
  await page.getByRole('option', { name: /^Heading/ }).click();
  const added = mail.getByRole('heading', { name: 'A heading' });
  await expect(added).toHaveCount(1);
  // What holds words is written at once.
  await expect(page.getByRole('textbox', { name: 'Heading in place' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('chosen')).toBeVisible();
  await page.keyboard.press('Control+d');
  await expect(added).toHaveCount(2);
  await page.keyboard.press('Delete');
  await expect(added).toHaveCount(1);
  const order = () => outline(page).locator('button[aria-current]').allTextContents();
  await line(page, 'A heading').click();
  await blur(page);
  const before = (await order()).findIndex((t) => t.startsWith('A heading'));
  await page.keyboard.press('Alt+ArrowUp');
  await expect
    .poll(async () => (await order()).findIndex((t) => t.startsWith('A heading')))
    .toBeLessThan(before);
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await order()).findIndex((t) => t.startsWith('A heading')))
    .toBe(before);
});

test('every kind of block can be added and is filled', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'Kinds');
  await openDesk(page, id);
  for (const kind of [
    'Text',
    'Heading',
    'Picture',
    'Button',
    'Cards',
    'Lines',
    ...['Totals', 'Posts', 'Coupon', 'Gallery', 'Menu', 'Divider', 'Spacer', 'Group', 'HTML'],
    ...['Footer', 'Section'],
  ]) {
    await line(page, /Back to the bench/).click();
    await blur(page);
    await page.keyboard.press('/');
    await page.getByRole('option', { name: new RegExp(`^${kind} `) }).click();
    await expect(inspector(page).getByRole('heading', { name: kind, level: 2 })).toBeVisible();
  }
  await saved(page);
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('an unclosed tag is told with its place, and nothing is lost', async ({ page, request }) => {
  const stored = await copyOf(request, CART, 'Unclosed');
  const envelope = {
    ...(stored.template['envelope'] as object),
    subject: 'Hi {{ person.first_name',
  };
  await request.put(`/api/templates/${stored.id}`, {
    data: { version: stored.version, template: { ...stored.template, envelope } },
  });
  const mail = await openDesk(page, stored.id);
  await expect(mail.getByText('Hello Maud,')).toBeVisible();
  await line(page, /Envelope and style/).click();
  await expect(
    inspector(page)
      .getByText(/never closed/)
      .first(),
  ).toBeVisible();
  await expect(inspector(page).getByRole('textbox', { name: 'Subject' })).toHaveText(
    'Hi {{ person.first_name',
  );
});

test.describe('a template that was changed elsewhere', () => {
  /** Opens a copy, has it saved by somebody else, and goes on typing. */
  async function conflict(page: Page, request: APIRequestContext, name: string) {
    const stored = await copyOf(request, CART, name);
    const mail = await openDesk(page, stored.id);
    const theirs = { ...stored.template, name: 'Theirs' };
    const put = await request.put(`/api/templates/${stored.id}`, {
      data: { version: stored.version, template: theirs },
    });
    expect(put.status()).toBe(200);
    await line(page, /Back to the bench/).click();
    await inspector(page).getByRole('textbox', { name: 'Label' }).click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type(' now');
    const dialog = page.getByRole('dialog', { name: 'This template was changed elsewhere' });
    // Keys go on until it is there: what is asked then is asked in the midst of typing, on a slow machine, too.
    while (!(await dialog.isVisible())) await page.keyboard.press('Shift');
    const nameStored = async () =>
      ((await (await request.get(`/api/templates/${stored.id}`)).json()) as Stored).template.name;
    const title = (text: string) => page.getByRole('heading', { level: 1, name: text });
    return { mail, dialog, nameStored, title };
  }

  test('typing on chooses nothing; what differs is told, and it can be decided later', async ({
    page,
    request,
  }) => {
    const { mail, dialog, nameStored } = await conflict(page, request, 'Later');
    // Who is in the middle of a sentence does not answer by it: the keys go on at once.
    await page.keyboard.type(' and\n then ');
    expect(await nameStored()).toBe('Theirs');
    await expect(dialog.getByRole('region', { name: 'What differs' })).toContainText('Theirs');
    await expect(dialog.getByRole('button', { name: 'Decide later' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(dialog).toHaveCount(0);
    expect(await nameStored()).toBe('Theirs');
    await expect(mail.getByText(/Back to the bench now/)).toBeVisible();
    await page.getByRole('button', { name: 'Resolve' }).click();
    await expect(dialog).toBeVisible();
  });

  test('either version is one undo away from the other', async ({ page, request }) => {
    const { mail, dialog, nameStored, title } = await conflict(page, request, 'Turned');
    await dialog.getByRole('button', { name: 'Use the other version' }).click();
    await expect(title('Theirs')).toBeVisible();
    await expect(mail.getByText('Back to the bench now')).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect(title('Turned')).toBeVisible();
    await expect(mail.getByText('Back to the bench now')).toBeVisible();
    await saved(page);
    expect(await nameStored()).toBe('Turned');
  });

  test('both are kept where that is asked for', async ({ page, request }) => {
    const { mail, dialog, title } = await conflict(page, request, 'Both');
    await dialog.getByRole('button', { name: 'Use mine, keep the other as a copy' }).click();
    await expect(title('Both')).toBeVisible();
    await expect(mail.getByText('Back to the bench now')).toBeVisible();
    await saved(page);
    await page.goto('/');
    await expect(
      page.getByRole('link', { name: 'Theirs (other version)', exact: true }),
    ).toBeVisible();
  });
});

test('what cannot be saved says so and stays on the page until it can', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Offline');
  await openDesk(page, id);
  await page.route(`**/api/templates/${id}`, (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await line(page, /Back to the bench/).click();
  await inspector(page).getByRole('textbox', { name: 'Label' }).click();
  await page.keyboard.type('Hey ');
  await expect(page.getByTestId('save-state')).toContainText('Not saved');
  await page.unroute(`**/api/templates/${id}`);
  await page.getByRole('button', { name: 'Try again' }).click();
  await saved(page);
});

test('a slow save is no conflict with the edit after it, nor with coming back', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Slow');
  const mail = await openDesk(page, id);
  let held = 0;
  await page.route(`**/api/templates/${id}`, async (route) => {
    if (route.request().method() !== 'PUT' || held++ > 0) return route.continue();
    // The first save is held until the second would long have been sent.
    await page.keyboard.type('B');
    await expect(mail.getByText('Back to the benchAB')).toBeVisible();
    return route.continue();
  });
  await line(page, /Back to the bench/).click();
  await inspector(page).getByRole('textbox', { name: 'Label' }).focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('A');
  await expect(mail.getByText('Back to the benchAB')).toBeVisible();
  await page.keyboard.type('C');
  await leaveFor(page, 'Templates');
  await page.locator(`a[href="/templates/${id}"]`, { hasText: 'Slow' }).click();
  await expect(mail.getByText('Back to the benchABC')).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await saved(page);
});

test('every text of a block is edited where it stands: a total’s label, a button, words of a card', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Words in place');
  const mail = await openDesk(page, id);
  const rewrite = async (from: string, label: string, to: string) => {
    await mail.getByText(from, { exact: true }).first().dblclick();
    const field = page.getByRole('textbox', { name: `${label} in place` });
    await expect(field).toBeFocused();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(to);
    await page.keyboard.press('Escape');
    await expect(mail.getByText(to, { exact: true }).first()).toBeVisible();
  };
  await rewrite('Together', 'Label', 'All of it');
  await rewrite('Back to the bench', 'Label', 'Back to it');
  await rewrite('Qty', 'Column heading', 'How many');
  await saved(page);
  const { template } = (await (await request.get(`/api/templates/${id}`)).json()) as Stored;
  for (const words of ['All of it', 'Back to it', 'How many'])
    expect(JSON.stringify(template)).toContain(`"${words}"`);

  const letter = await copyOf(request, 'The November letter', 'Words of a card');
  await openDesk(page, letter.id);
  const name = mail.locator('[class^="carafe-card"] div[style*="font-weight:bold"]').first();
  await name.dblclick();
  const field = page.getByRole('textbox', { name: 'Text in place' });
  await expect(field).toBeFocused();
  await page.keyboard.press('End');
  await page.keyboard.type(' (new)');
  await page.keyboard.press('Escape');
  // The words of one card are those of all of them.
  await expect(mail.getByText(/\(new\)$/).nth(1)).toBeVisible();
});
