import { expect, test, type APIRequestContext, type Page } from './carafe';
import { arrowsTo, htmlFor, inspector, line, outline, saved } from './desk';
import { Hands, type Manner } from './hands';

const SHOP = '/api/shops/quillmoss-gb';
interface Listed {
  email: string;
  lines: number;
}
/** The address of somebody who has just so many lines in the cart, no name, or ordered before. */
async function somebody(
  request: APIRequestContext,
  { lines, ...rest }: { lines?: number; name?: 'none'; orders?: 'some' },
): Promise<string> {
  // Who has nothing in the cart is found among all.
  const params: Record<string, string> = { having: 'all', limit: '500', ...rest };
  if (lines !== undefined && lines > 0) params['lines'] = String(lines);
  const answer = await request.get(`${SHOP}/recipients`, { params });
  const { recipients } = (await answer.json()) as { recipients: Listed[] };
  const found = recipients.find((one) => lines === undefined || one.lines === lines);
  if (!found) throw new Error(`Nobody has ${lines ?? 'any'} lines and is as asked.`);
  return found.email;
}

/** Twelve things in the cart of somebody who had nothing in it. */
const LARGE = Array.from({ length: 12 }, (_, i) => `S-${101 + i}`);
let large = '';
const send = (request: APIRequestContext, events: object[]) =>
  request.post('/api/events', {
    data: events.map((event, i) => ({
      ...{ id: `large-${i}-${JSON.stringify(event).length}`, shop: 'quillmoss-gb', email: large },
      at: new Date(Date.UTC(2026, 10, 23, 9, i)).toISOString(),
      ...event,
    })),
  });
test.beforeAll(async ({ request }) => {
  const { recipients } = (await (
    await request.get(`${SHOP}/recipients`, {
      params: { having: 'all', limit: '500', offset: '700' },
    })
  ).json()) as { recipients: Listed[] };
  large = recipients.find(({ lines }) => lines === 0)?.email ?? '';
  const things = LARGE.map((sku) => ({ sku, name: `Seed ${sku}`, price: 2, quantity: 1 }));
  const answer = await send(
    request,
    things.map((thing) => ({ kind: 'cart_added', currency: 'GBP', ...thing })),
  );
  expect(answer.status()).toBe(200);
});
test.afterAll(async ({ request }) => {
  const gone = LARGE.map((sku) => ({ kind: 'cart_removed', sku, at: '2026-11-23T23:00:00Z' }));
  expect((await send(request, gone)).status()).toBe(200);
});

const mailOf = (page: Page) => page.frameLocator('iframe[title^="The email"]');

/** An empty page, with its first text selected. */
async function blank(hands: Hands, name: string): Promise<void> {
  const { page } = hands;
  await page.goto('/');
  await hands.click(page.getByRole('button', { name: 'New template' }));
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await hands.type(name);
  await hands.press('Enter');
  await expect(mailOf(page).getByText('Write here.')).toBeVisible();
  if (hands.manner === 'mouse') await hands.click(line(page, 'Write here.'));
  else await arrowsTo(page, 'Write here.', (key) => hands.press(key));
}

/** Writes over the words of a text that was just put in, which opens itself where it stands. */
async function write(hands: Hands, words: string): Promise<void> {
  const field = hands.page.getByRole('textbox', { name: 'Text in place' });
  await expect(field).toBeFocused();
  await hands.type(words);
  await hands.press('Escape');
  await expect(field).toHaveCount(0);
  await expect(mailOf(hands.page).getByText('Write here.')).toHaveCount(0);
}

/** Writes over the words that the selected text was born with. */
async function rewrite(hands: Hands, words: string): Promise<void> {
  await hands.press('Enter');
  await write(hands, words);
}

/** A condition on what is selected, as a sentence. */
async function condition(hands: Hands, field: string, how: string, value: string, called: string) {
  const { page } = hands;
  if (hands.manner === 'keyboard') await hands.press('c');
  else await hands.click(inspector(page).getByRole('button', { name: 'Add a condition' }));
  await expect(page.getByRole('textbox', { name: 'Search fields' })).toBeFocused();
  await hands.type(field);
  await hands.press('Enter');
  await hands.choose(inspector(page).getByLabel(`How ${called} is compared`), how);
  await hands.fill(inspector(page).getByLabel(`Value for ${called}`), value);
}

/** What of a mail a reader meets: its words, where its links lead, what its pictures say. */
const met = (html: string | null) => {
  const root =
    html === null
      ? document.querySelector('iframe')?.contentDocument
      : new DOMParser().parseFromString(html, 'text/html');
  return (
    root && {
      words: (root.querySelector('body')?.textContent ?? '').replace(/\s+/g, ' ').trim(),
      links: [...root.querySelectorAll('a')].map((one) => one.getAttribute('href')),
      pictures: [...root.querySelectorAll('img')].map((one) => one.getAttribute('alt')),
    }
  );
};

/** Looks at the mail as somebody, and holds it against what the server fills. */
async function lookAs(page: Page, email: string): Promise<void> {
  const search = page.getByRole('combobox', { name: 'Search recipients' });
  // The list may be on its way when it is asked: then it is checked again.
  await expect(async () => {
    if (!(await search.isVisible()))
      await page.getByRole('button', { name: 'Find a recipient' }).click();
    await page.getByText('Everyone', { exact: true }).click({ timeout: 3_000 });
    await search.fill(email, { timeout: 3_000 });
    await page.getByRole('option').filter({ hasText: email }).first().click({ timeout: 8_000 });
  }).toPass();
  const expected = await page.evaluate(met, await htmlFor(page, email));
  await expect.poll(() => page.evaluate(met, null)).toEqual(expected);
}

/**
 * The mail is right for people with no, one, three and twelve lines, with and without a name. The same mail
 * made by keyboard is looked at once more for one of them.
 */
async function rightForAll(page: Page, manner: Manner): Promise<void> {
  if (manner === 'keyboard') {
    await lookAs(page, large);
    return;
  }
  const people = [
    await somebody(page.request, { lines: 0 }),
    await somebody(page.request, { lines: 1 }),
    await somebody(page.request, { lines: 3 }),
    await somebody(page.request, { name: 'none' }),
    large,
  ];
  for (const email of people) await lookAs(page, email);
}

for (const manner of ['mouse', 'keyboard'] as const satisfies readonly Manner[]) {
  test.describe(manner === 'mouse' ? 'with a mouse' : 'by keyboard alone', () => {
    test('a cart mail: loop, fallback, condition, else and coupon', async ({ page }) => {
      const hands = new Hands(page, manner);
      const mail = mailOf(page);
      await blank(hands, `Cart by ${manner}`);
      await rewrite(hands, 'Hello {{ person.first_name otherwise "there" }}, you left this.');
      await expect(mail.getByText('Hello Maud, you left this.')).toBeVisible();
      await hands.add('Lines');
      await expect(mail.getByText('Long Tom pot')).toBeVisible();
      await hands.add('Totals');
      await hands.add('Text');
      await write(hands, 'Your parcel travels free.');
      await condition(hands, 'cart total', 'is at least', '50', 'Cart total');
      if (manner === 'keyboard') await hands.press('Escape', 'e');
      else
        await hands.click(
          inspector(page).getByRole('button', { name: 'Show an alternative if not' }),
        );
      await write(hands, 'A little more, and it travels free.');
      await hands.add('Coupon');
      await expect(mail.locator('span', { hasText: /^[A-Z0-9-]{5,}$/ }).first()).toBeVisible();
      // What it is worth comes from the data: no editor opens over it.
      await expect(page.getByRole('textbox', { name: 'What it is worth in place' })).toHaveCount(0);
      await hands.add('Button');
      const label = inspector(page).getByRole('textbox', { name: 'Label' });
      if (manner === 'keyboard') await hands.press('Enter');
      await hands.fill(label, 'Back to the cart');
      await hands.fill(
        inspector(page).getByRole('textbox', { name: 'Link', exact: true }),
        '{{ cart.recover_url }}',
      );
      await expect(mail.getByRole('link', { name: 'Back to the cart' })).toBeVisible();
      await saved(page);
      if (manner === 'mouse') expect(hands.clicks).toBeLessThanOrEqual(15);
      else expect(hands.keys).toBeLessThanOrEqual(60);
      expect(hands.typings).toBeLessThanOrEqual(25);
      await expect(mail.getByText('Your parcel travels free.')).toBeVisible();
      await rightForAll(page, manner);
    });

    test('an order confirmation: what was engraved, a note under its line, totals', async ({
      page,
    }) => {
      const note = await page.request.post(`${SHOP}/notes`, {
        data: {
          ...{ title: '', image: '', link: '', skus: [], tags: [], statuses: [], place: 'line' },
          categories: ['Seeds', 'Bulbs', 'Pots', 'Tools', 'Books', 'Workshops'],
          text: {
            type: 'doc',
            content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Kept for you.' }] }],
          },
        },
      });
      const { id } = (await note.json()) as { id: string };
      const hands = new Hands(page, manner);
      const mail = mailOf(page);
      await blank(hands, `Confirmation by ${manner}`);
      await rewrite(hands, 'Thank you, {{ person.first_name otherwise "friend" }}.');
      await hands.add('Lines');
      if (manner === 'keyboard') await hands.press('Enter');
      await hands.turn(inspector(page).getByRole('switch', { name: /^Properties: engraved/ }));
      await hands.turn(inspector(page).getByRole('switch', { name: /^Product notes under/ }));
      await hands.fill(
        inspector(page).getByRole('textbox', { name: 'List', exact: true }),
        'order.lines',
      );
      await hands.leave();
      await hands.add('Totals');
      if (manner === 'keyboard') await hands.press('Enter');
      await hands.fill(
        inspector(page).getByRole('textbox', { name: 'Amount', exact: true }),
        'order.total',
      );
      await expect(mail.getByText('Kept for you.')).toHaveCount(1);
      const engraved = await somebody(page.request, { orders: 'some' });
      await lookAs(page, engraved);
      await rightForAll(page, manner);
      // A blank property leaves no label behind.
      await expect(mail.getByText(/Gift note:\s*$/)).toHaveCount(0);
      await page.request.delete(`/api/notes/${id}`);
    });

    test('a digest of posts, the first one large', async ({ page }) => {
      const hands = new Hands(page, manner);
      const mail = mailOf(page);
      await blank(hands, `Digest by ${manner}`);
      const [clicks, keys] = [hands.clicks, hands.keys];
      await hands.add('Posts');
      if (manner === 'keyboard') await hands.press('Enter');
      await hands.turn(inspector(page).getByRole('switch', { name: 'First one large' }));
      await expect(mail.locator('div[style*="font-size:24px"]')).toHaveCount(1);
      if (manner === 'mouse')
        expect(hands.clicks - clicks + hands.keys - keys).toBeLessThanOrEqual(8);
      await rightForAll(page, manner);
    });

    test('a letter of what is new, in two columns, one of them changed', async ({ page }) => {
      const hands = new Hands(page, manner);
      const mail = mailOf(page);
      await blank(hands, `New in by ${manner}`);
      await hands.add('Cards');
      if (manner === 'keyboard') await hands.press('Enter');
      await hands.click(inspector(page).getByRole('button', { name: 'Change one product' }));
      await hands.fill(
        inspector(page).getByLabel('Product to change').and(page.locator('input')),
        'S-101',
      );
      await hands.fill(inspector(page).getByRole('textbox', { name: 'Label' }), 'Grown for you');
      await expect(mail.locator('.carafe-card-2')).toHaveCount(4);
      await expect(mail.getByText('Grown for you')).toHaveCount(1);
      await expect(outline(page).getByText(/1 changed/)).toBeVisible();
      await rightForAll(page, manner);
    });
  });
}

test.describe('in few actions', () => {
  const actions = ({ clicks, keys }: Hands) => clicks + keys;

  test('the newest four of a category under a price', async ({ page }) => {
    const hands = new Hands(page, 'mouse');
    await blank(hands, 'Newest');
    const before = actions(hands);
    await hands.add('Cards');
    const more = inspector(page).getByRole('button', { name: 'Add another' });
    const search = page.getByRole('textbox', { name: 'Search fields' });
    await hands.click(more);
    await expect(search).toBeFocused();
    await hands.type('category');
    await hands.press('Enter');
    await expect(inspector(page).getByLabel('Value for Product category')).toBeFocused();
    await hands.type('Seeds');
    await hands.click(more);
    await expect(search).toBeFocused();
    await hands.type('price');
    await hands.press('Enter');
    const compared = inspector(page).getByLabel('How Product price is compared');
    await expect(compared).toBeFocused();
    await hands.typeToChoose(compared, 'is under');
    await hands.press('Tab');
    await hands.type('10');
    await hands.click(inspector(page).getByRole('button', { name: 'Newest first' }));
    expect(actions(hands) - before).toBeLessThanOrEqual(8);
    await expect(mailOf(page).locator('.carafe-card-2')).toHaveCount(4);
    await saved(page);
    const id = page.url().split('/').at(-1) ?? '';
    const stored = async () => (await page.request.get(`/api/templates/${id}`)).text();
    await expect
      .poll(async () => /"where":"(.*?[^\\])"/.exec(await stored())?.[1])
      .toBe('in_stock and product.category is \\"Seeds\\" and product.price < 10');
    await expect.poll(stored).toContain('"direction":"descending"');
  });

  test('three products by hand', async ({ page }) => {
    const hands = new Hands(page, 'mouse');
    await blank(hands, 'Three by hand');
    const before = actions(hands);
    await hands.add('Cards');
    await hands.click(inspector(page).getByRole('button', { name: 'Pick products by hand' }));
    const search = page.getByRole('textbox', { name: 'Search products' });
    const picked = page.getByRole('region', { name: 'Picked' }).getByRole('listitem');
    for (const [i, words] of ['trowel', 'Long Tom', 'foxglove'].entries()) {
      await expect(search).toBeFocused();
      await hands.type(words);
      await hands.press('Enter');
      await expect(picked).toHaveCount(i + 1);
      await expect(search).toHaveValue('');
    }
    await hands.click(page.getByRole('button', { name: 'Done' }));
    expect(actions(hands) - before).toBeLessThanOrEqual(8);
    await expect(mailOf(page).locator('.carafe-card-2')).toHaveCount(3);
    await saved(page);
  });

  test('a block into another template', async ({ page }) => {
    const hands = new Hands(page, 'mouse');
    await blank(hands, 'Takes the block');
    await saved(page);
    await blank(hands, 'Gives the block');
    await saved(page);
    const before = actions(hands);
    await hands.press('Control+c', 'Control+k');
    await expect(page.getByRole('textbox', { name: 'Find anything' })).toBeFocused();
    await hands.type('Takes the block');
    await expect(page.getByRole('button', { name: /^Takes the block/ })).toBeVisible();
    await hands.press('Enter');
    await expect(page.getByRole('heading', { name: 'Takes the block' })).toBeVisible();
    await expect(mailOf(page).getByText('Write here.')).toHaveCount(1);
    await hands.press('Control+v');
    expect(actions(hands) - before).toBeLessThanOrEqual(4);
    await expect(mailOf(page).getByText('Write here.')).toHaveCount(2);
  });
});
