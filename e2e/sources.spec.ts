import { axeFinds } from './axe';
import { expect, test, type Page } from './carafe';
import { leaveFor, copyOf, line, openDesk, saved } from './desk';
import { addFile, asFile, choose, fate, SPRING, textOf } from './files';

const cells = (page: Page) => page.getByTestId('row');

async function sound(page: Page): Promise<void> {
  // A place comes with its own script: it is looked at when it is there.
  await expect(
    page.getByRole('heading', { level: 1 }).or(page.getByRole('dialog')).first(),
  ).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
}

test('a semicolon file with comma decimals and an odd key: mapped, checked, taken, added to, gone back from', async ({
  page,
}) => {
  await addFile(page, 'Spring', 'Product catalog', asFile('spring.csv', SPRING));
  // How it is written was found.
  await expect(page.getByRole('combobox', { name: 'Separator' })).toHaveValue('Semicolon');
  // A line too many above the table takes its header; none gives it back.
  const above = page.getByLabel('Lines above the table');
  await expect(above).toHaveValue('0');
  await above.fill('1');
  await expect(page.getByRole('combobox', { name: 'How Kürzel is read' })).toHaveCount(0);
  await above.fill('0');
  await expect(page.getByRole('combobox', { name: 'How Kürzel is read' })).toBeVisible();
  await expect(page.getByText('Choose the column that holds the SKU')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Check every row' })).toBeDisabled();
  await choose(page, 'Key', 'Kürzel');
  await expect(page.getByText('No duplicates in the first 4 rows.')).toBeVisible();
  // A wrong guess is corrected by hand, and what is stored follows at once.
  const stock = page.getByRole('row', { name: /^Lager/ });
  await expect(stock).toContainText('120');
  await choose(page, 'What Kommentar fills', 'Left out');
  await choose(page, 'How Aussaat ab is read', /month first/);
  await expect(page.getByRole('row', { name: /^Aussaat ab/ })).toContainText(
    '“15.4.2026” is not a date',
  );
  await choose(page, 'How Aussaat ab is read', /day first/);
  const sample = page.getByRole('region', { name: 'Sample rows' });
  await expect(sample.getByRole('row', { name: /Roter Fingerhut/ })).toContainText('2026-03-01');
  await expect(sample.getByRole('row', { name: /Refused/ })).toContainText(
    '“teuer” is not a number such as 12,50.',
  );
  await sound(page);

  await page.getByRole('button', { name: 'Check every row' }).click();
  await expect(page.getByText('4 rows were read.')).toBeVisible();
  await expect(fate(page, 'New')).toContainText('3');
  await expect(fate(page, 'Rejected')).toContainText('1');
  await sound(page);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download rejected rows with reasons' }).click();
  expect(textOf(await (await download).path())).toMatch(/kerbel.*VK-Preis: “teuer”/);
  await page.getByRole('button', { name: 'Import 3 rows' }).click();
  await expect(cells(page)).toHaveCount(3);
  await expect(cells(page).nth(2)).toContainText('1,024');

  // A part of a file, by the mapping that is kept.
  await page
    .locator('input[type=file]')
    .setInputFiles(
      asFile(
        'more.csv',
        [
          SPRING.split('\r\n')[0],
          'mohn;Klatschmohn;2,25;9;Samen;15.4.2026;ja;',
          'salbei;Salbei;3,10;5;Kräuter;1.4.2026;ja;',
        ].join('\n'),
      ),
    );
  await page.getByText('Adds and updates').click();
  await page.getByRole('button', { name: 'Check every row' }).click();
  await expect(fate(page, 'New')).toContainText('1');
  await fate(page, 'Changed').click();
  await expect(page.getByText('1.95 → 2.25')).toBeVisible();
  await page.getByRole('button', { name: 'Import 2 rows' }).click();
  await expect(cells(page)).toHaveCount(4);

  await page.getByRole('tab', { name: 'Imports' }).click();
  await page.getByRole('button', { name: 'Undo this import' }).click();
  await expect(page.getByText('Undone')).toBeVisible();
  await page.getByRole('tab', { name: 'Rows' }).click();
  await expect(cells(page)).toHaveCount(3);
  await expect(cells(page).nth(1)).toContainText('1.95');

  // The imported field is known, and how often it is filled.
  await page.getByRole('tab', { name: 'Shape' }).click();
  const own = page.getByRole('row', { name: /^bienenfreundlich/ });
  await expect(own).toContainText('yes or no');
  await expect(own).toContainText('100 %');
  await sound(page);
});

test('an engraved label in the stand-in shop fills the cart mail, and the order mail', async ({
  page,
  context,
}) => {
  await page.goto('/');
  await page
    .getByRole('link', { name: 'You left these on the potting bench', exact: true })
    .click();
  const mail = page.frameLocator('iframe[title^="The email"]');
  await expect(mail.getByText('Maud')).toBeVisible();

  const shop = await context.newPage();
  await shop.goto('/shop');
  await shop.getByRole('button', { name: 'Tools', exact: true }).click();
  await shop.getByRole('button', { name: /Hand-forged dibber/ }).click();
  await shop.getByLabel('Engraved label').fill('East bed <b>1</b>');
  await shop.getByRole('button', { name: 'Put it in the basket' }).click();
  await expect(shop.getByText('is in your basket')).toBeVisible();
  await sound(shop);
  await shop.getByLabel('First name').fill('tilda');
  await shop.getByLabel('Email address').fill('tilda@post.example');
  await shop.getByRole('button', { name: 'Start the checkout' }).click();
  await expect(shop.getByText('The checkout is started')).toBeVisible();

  // The guest is seen at once, and the mail fills with what was put in before the address was known.
  await page.getByText('Just happened in the shop: tilda, 1 line in the cart').waitFor();
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await expect(mail.getByText('Hello Tilda,')).toBeVisible();
  await expect(mail.getByText('Hand-forged dibber')).toBeVisible();

  // While it is shown, it follows the shop.
  await shop.getByRole('button', { name: /Hand-forged trowel/ }).click();
  await shop.getByRole('button', { name: 'Put it in the basket' }).click();
  await expect(mail.getByText('Hand-forged trowel')).toBeVisible();

  await shop.getByLabel('A note with the order').fill('By the gate');
  await shop.getByRole('button', { name: 'Order for nothing' }).click();
  await expect(shop.getByRole('region', { name: 'Back room' })).toBeVisible();
  await shop.getByRole('combobox', { name: /Status of/ }).selectOption('Sent');
  await expect(shop.getByText('is now sent')).toBeVisible();

  await leaveFor(page, 'Templates');
  await page.getByRole('link', { name: /order/i }).first().click();
  await expect(mail.locator('table').first()).toBeVisible();
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  await page.getByLabel('Search recipients').fill('tilda@post');
  await page.getByRole('option', { name: /tilda@post.example/ }).click();
  await expect(mail.getByText('East bed <b>1</b>')).toBeVisible();
  await expect(mail.getByText('By the gate')).toBeVisible();
});

test('a post published in the journal comes in with the next fetch', async ({ page, context }) => {
  const journal = await context.newPage();
  await journal.goto('/journal');
  await expect(journal.getByText('The bench in November')).toBeVisible();
  await sound(journal);
  await journal.getByLabel('Title').fill('Leaf mould, a year on');
  await journal.getByLabel('Words').fill('What we raked last autumn is black and sweet.');
  await journal.getByRole('button', { name: 'Publish' }).click();
  await expect(journal.getByText('is published')).toBeVisible();
  await page.goto('/sources');
  await page.getByRole('link', { name: 'The Furrow' }).click();
  await expect(cells(page)).toHaveCount(6);
  await page.getByRole('button', { name: 'Fetch now' }).click();
  await expect(cells(page)).toHaveCount(7);
  await expect(page.getByText('Leaf mould, a year on')).toBeVisible();
});

test('rows are searched, filtered by a formula, sorted and opened; a person shows all that templates see', async ({
  page,
}) => {
  await page.goto('/sources');
  await sound(page);
  await page.getByRole('main').getByRole('link', { name: 'People', exact: true }).first().click();
  await expect(cells(page).first()).toContainText('maud.fennimore1@post.example');
  await page
    .getByRole('textbox', { name: 'Filter by formula' })
    .fill('consent and first_name is empty');
  await expect(page.getByText('1,250 rows')).toHaveCount(1);
  await expect(cells(page).first()).toContainText('oswin.dunmore2');
  await page.getByRole('textbox', { name: 'Filter by formula' }).fill('consent and (');
  await expect(page.getByText(/column 14/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Filter by formula' }).fill('');
  await page.getByRole('button', { name: 'Sort by last_name' }).click();
  await expect(cells(page).first()).toContainText('Askew');
  await page.getByRole('textbox', { name: 'Search rows' }).fill('maud.fennimore1@');
  await expect(cells(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'maud.fennimore1@post.example' }).click();
  const drawer = page.getByRole('dialog');
  await expect(drawer.getByText('Long Tom pot × 2').first()).toBeVisible();
  await expect(drawer.getByText('Events, the latest first')).toBeVisible();
  await expect(drawer.getByText('Added to the cart').first()).toBeVisible();
  await sound(page);
  await page.keyboard.press('Escape');
  await page.goto('/sources');
  await page.getByRole('link', { name: 'Shop events' }).first().click();
  await page
    .getByRole('textbox', { name: 'Filter by formula' })
    .fill('kind = "order_placed" and note is filled');
  await expect(cells(page).first()).toContainText('order_placed');
});

test('rows are typed in, changed, deleted and brought back', async ({ page }) => {
  await page.goto('/sources');
  await page.getByRole('link', { name: 'Growing notes' }).click();
  await expect(cells(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Add a note' }).click();
  await page.getByRole('textbox', { name: 'SKU or category' }).fill('Seeds');
  await page.getByRole('textbox', { name: 'Words' }).fill('Label first, sow second.');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(cells(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'Seeds', exact: true }).click();
  await page.getByRole('button', { name: 'Delete this row' }).click();
  await expect(cells(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(cells(page)).toHaveCount(3);
});

test('a list inside a JSON document is pointed at; numbered columns are gathered', async ({
  page,
}) => {
  const document = {
    made: 'today',
    shelves: [{ id: 1 }, { id: 2 }, { id: 3 }],
    data: {
      items: [
        { code: 'x1', title: 'Aster', price: { amount: 2 } },
        { code: 'x2', title: 'Beet', price: { amount: '3,50' } },
      ],
    },
  };
  await addFile(
    page,
    'Pointed',
    'Product catalog',
    asFile('all.json', JSON.stringify(document), 'application/json'),
  );
  await choose(page, 'The list', /data\/items: 2 records/);
  await expect(page.getByRole('row', { name: /^price\.amount/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Sample rows' })).toContainText('Aster');
  await page.getByRole('button', { name: 'Discard file' }).click();
  // The source was made for this file alone: nothing of it stays.
  await expect(page.getByRole('heading', { name: 'Sources', level: 1 })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Pointed' })).toHaveCount(0);

  const orders =
    'Order no,Email,Date,Currency,product_1_name,product_1_price,product_2_name,product_2_price\nN1,a@post.example,2026-11-01,GBP,Pot,4.50,Pan,2\n';
  await addFile(page, 'Old orders', 'Orders', asFile('orders.csv', orders));
  const gather = page.getByRole('switch', { name: /Gather the columns/ });
  await expect(gather).toBeChecked();
  await expect(page.getByRole('region', { name: 'Sample rows' })).toContainText('Pot, Pan');
  await gather.uncheck({ force: true });
  await expect(
    page.getByRole('textbox', { name: 'Name of the field for product_1_name' }),
  ).toHaveValue('product_1_name');
  await gather.check({ force: true });
  await page.getByRole('button', { name: 'Check every row' }).click();
  await page.getByRole('button', { name: 'Import 1 row' }).click();
  await expect(cells(page).first()).toContainText('Pot, Pan');
});

test('a file is dropped onto the place; one that cannot be read says why and changes nothing', async ({
  page,
}) => {
  await page.goto('/sources');
  await expect(page.getByRole('table')).toBeVisible();
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(new File(['code,policy\nA,"cut off'], 'codes.csv', { type: 'text/csv' }));
    return transfer;
  });
  await page.getByRole('main').dispatchEvent('dragenter', { dataTransfer: data });
  await page.getByText('Drop the file to import it').dispatchEvent('drop', { dataTransfer: data });
  const dialog = page.getByRole('dialog', { name: 'Import codes.csv' });
  await dialog.getByRole('combobox', { name: 'Add to' }).click();
  await page.getByRole('option', { name: 'Coupon codes' }).first().click();
  await dialog.getByRole('button', { name: 'Continue' }).click();
  await expect(page.getByRole('alert')).toContainText('a quote is opened and never closed');
  await page.getByRole('button', { name: 'Discard file' }).click();
  await expect(page.getByText('50 rows').first()).toBeVisible();
});

test('a long file is checked beside everything else, can be stopped, and its rows scroll', async ({
  page,
}) => {
  const long = (rows: number) =>
    `sku,name,price\n${Array.from({ length: rows }, (_, i) => `L-${i},Lupin ${i},${i % 90}.50`).join('\n')}`;
  await addFile(page, 'Long', 'Product catalog', asFile('long.csv', long(500_000)));
  await page.getByRole('button', { name: 'Check every row' }).click();
  await expect(page.getByText(/rows checked/)).toBeVisible();
  // The server answers others meanwhile.
  expect((await page.request.get('/api/templates')).status()).toBe(200);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Check every row' })).toBeVisible();
  await page.getByRole('button', { name: 'Discard file' }).click();

  // A source that has nothing else goes with its discarded file, so the short one makes a new one.
  await addFile(page, 'Long', 'Product catalog', asFile('short.csv', long(20_000)));
  await page.getByRole('button', { name: 'Check every row' }).click();
  await page.getByRole('button', { name: 'Import 20,000 rows' }).click();
  await expect(page.getByText('20,000 rows').first()).toBeVisible();
  // The table grows while its rows come: its end is where it is when it is looked for.
  await expect(async () => {
    await page
      .getByRole('table', { name: 'Rows' })
      .evaluate((el) => el.scrollTo({ top: el.scrollHeight }));
    const last = page.getByRole('button', { name: 'L-19999', exact: true });
    await expect(last).toBeVisible({ timeout: 2_000 });
  }).toPass();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Delete this source' }).click();
  await expect(page.getByText('“Long” was deleted')).toBeVisible();
});

test('a template speaks for another shop: its people, its money', async ({ page, request }) => {
  const { id } = await copyOf(request, 'You left these on the potting bench', 'For both shops');
  const mail = await openDesk(page, id);
  await expect(mail.getByText('Hello Maud,')).toBeVisible();
  await line(page, 'Envelope and style').click();
  await choose(page, 'Shop', 'Quillmoss Samenhaus');
  await expect(mail.getByText('Hello Annelie,')).toBeVisible();
  await expect(mail.getByText(/€/).first()).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(mail.getByText('Hello Maud,')).toBeVisible();
});

test('what asks for attention is told from every place', async ({ page, request }) => {
  const made = await request.post('/api/sources', {
    data: {
      ...{ shop: null, name: 'Nowhere', kind: 'address', target: 'feed', formula_name: 'nowhere' },
      address: 'http://10.0.0.1/feed.xml',
    },
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/sources/${id}`);
  await page.getByRole('button', { name: 'Fetch now' }).click();
  await expect(page.getByText('“10.0.0.1” is in a private network')).toBeVisible();
  // A source that was never filled has nothing to lose; one that holds a file back asks for a look.
  const { sources } = (await (await request.get('/api/sources')).json()) as {
    sources: { id: string; target: string; rows: number }[];
  };
  const coupons = sources.find((s) => s.target === 'coupons' && s.rows === 50);
  const sent = await request.post(`/api/sources/${coupons?.id ?? ''}/file?name=one.csv`, {
    data: Buffer.from('code,policy,percent\nONLY-1,welcome,5\n'),
    headers: { 'content-type': 'application/octet-stream' },
  });
  const look = (await sent.json()) as { import: { id: string }; settings: unknown };
  await request.post(`/api/imports/${look.import.id}/check`, {
    data: { settings: look.settings, mode: 'whole' },
  });
  const nav = page.getByRole('navigation', { name: 'Places' });
  await expect(nav.getByTitle('1 source asks for attention')).toBeVisible();
  await nav.getByRole('link', { name: /Sources/ }).click();
  await expect(page.getByRole('row', { name: /Coupon codes/ }).first()).toContainText(
    'Needs review',
  );
  await page.getByRole('link', { name: 'Coupon codes' }).first().click();
  await page.getByRole('link', { name: 'Review what it changes' }).click();
  await expect(fate(page, 'Removed')).toContainText('50');
  await page.getByRole('button', { name: 'Discard file' }).click();
  await expect(nav.getByTitle(/attention/)).toHaveCount(0);
});

test('another shop gets a feed from an address, looked at first, then on a schedule', async ({
  page,
}) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto('/sources');
  await page.getByRole('button', { name: 'Add a source' }).click();
  await page.getByRole('dialog').getByText('Address', { exact: true }).click();
  await choose(page, 'Contains', 'Content feed');
  await choose(page, 'Shop', 'Add a shop …');
  const shop = page.getByRole('dialog', { name: 'Add a shop' });
  await shop.getByRole('textbox', { name: 'Name', exact: true }).fill('Moss & Fern');
  await shop.getByRole('textbox', { name: 'Short name' }).fill('Moss');
  await shop.getByRole('textbox', { name: 'Web address of the shop' }).fill('https://moss.example');
  await shop.getByRole('button', { name: 'Create' }).click();
  await expect(shop.getByText(/lower-case letters/)).toBeVisible();
  await shop.getByRole('textbox', { name: 'Short name' }).fill('moss');
  await shop.getByRole('button', { name: 'Create' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add a source' });
  await expect(dialog.getByRole('combobox', { name: 'Shop' })).toHaveValue('Moss & Fern');
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Letters');
  await dialog
    .getByRole('textbox', { name: 'Address', exact: true })
    .fill('http://127.0.0.1:1/feed');
  await dialog.getByRole('button', { name: 'Continue' }).click();
  await expect(dialog.getByRole('alert')).toContainText('private network');
  // What was typed is still there, and is put right in its place.
  await dialog
    .getByRole('textbox', { name: 'Address', exact: true })
    .fill('/journal/sow_now/atom.xml');
  await dialog.getByRole('button', { name: 'Continue' }).click();
  await expect(page.getByRole('combobox', { name: 'Format' })).toHaveValue(/Feed/);
  await expect(page.getByRole('region', { name: 'Sample rows' })).toContainText(
    'Garlic, before the ground hardens',
  );
  await sound(page);
  await page.getByRole('button', { name: 'Check every row' }).click();
  await page.getByRole('button', { name: 'Import 4 rows' }).click();
  await expect(cells(page)).toHaveCount(4);
  await expect(page.getByText('Next fetch')).toBeVisible();
  await sound(page);
  await page.getByRole('tab', { name: 'Settings' }).click();
  await choose(page, 'Fetched', 'By hand only');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Next fetch')).toHaveCount(0);
});

test('what is said of a shop is changed, and told where it is wrong', async ({ page }) => {
  await page.goto('/sources');
  await page
    .getByRole('button', { name: /^Settings/ })
    .first()
    .click();
  const form = page.getByRole('dialog');
  const logo = form.getByLabel(/Web address of the logo/);
  const before = await logo.inputValue();
  await form.getByLabel(/Web address of the shop/).fill('nowhere');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByText(/web address/i).last()).toBeVisible();
  await form.getByLabel(/Web address of the shop/).fill('https://shop.quillmoss.example');
  // Currency, language and time zone are chosen by their names.
  await form.getByRole('combobox', { name: 'Time zone' }).fill('new york');
  await page.getByRole('option', { name: 'America, New York' }).click();
  await form.getByRole('combobox', { name: 'Time zone' }).fill('london');
  await page.getByRole('option', { name: 'Europe, London' }).click();
  await logo.fill(`${before}?2`);
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form).toHaveCount(0);
  await page.reload();
  await page
    .getByRole('button', { name: /^Settings/ })
    .first()
    .click();
  await expect(logo).toHaveValue(`${before}?2`);
  await logo.fill(before);
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form).toHaveCount(0);
});

test('people are found, and their newsletters, rank and emails stand in their sheet', async ({
  page,
}) => {
  const answer = await page.goto('/people?shop=quillmoss-gb');
  expect(answer?.status()).toBe(200);
  const row = page.getByRole('row').filter({ hasText: 'maud.fennimore1@post.example' });
  await page.getByRole('textbox', { name: 'Search people' }).fill('fennimore1@');
  await expect(page.getByRole('status').filter({ hasText: /^1 person$/ })).toBeVisible();
  await expect(row).toContainText('Agreed');
  await row.getByRole('button').click();
  const sheet = page.getByRole('dialog', { name: 'maud.fennimore1@post.example' });
  await expect(sheet.getByRole('heading', { name: /^Rank \d of 5$/ })).toBeVisible();
  await expect(sheet.getByText(/^Last order .*fifth/)).toBeVisible();
  await sheet.getByRole('button', { name: 'Unsubscribe' }).click();
  await expect(sheet.getByText(/^Gets no newsletters.*changed by the shop/)).toBeVisible();
  await sound(page);
  await expect(sheet.getByRole('link', { name: 'Preferences page' })).toHaveAttribute(
    'href',
    /\/mail\/preferences\//,
  );
  await page.keyboard.press('Escape');
  await expect(row).not.toContainText('Agreed');
  await row.getByRole('button').click();
  await sheet.getByRole('button', { name: 'Record consent' }).click();
  await expect(sheet.getByText(/^Has agreed to newsletters/)).toBeVisible();
});
